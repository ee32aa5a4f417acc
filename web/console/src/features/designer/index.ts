export { Designer } from './Designer.tsx';
