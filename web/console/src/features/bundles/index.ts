export { ExportDialog } from './ExportDialog.tsx';
export { ImportDialog } from './ImportDialog.tsx';
