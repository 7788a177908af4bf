/** What reads a file that is dropped or chosen; fetched when the first one comes. */
export { claimBundle, isClaimTable, readClaimTable, splitTable } from '@alluvium/records';
export { TooLarge, workbookCells } from './workbook.js';
