export { Cards } from './Cards.tsx';
export { cardsBelow } from './cardsBelow.ts';
export { cellText, ColumnWidths } from './table.tsx';
