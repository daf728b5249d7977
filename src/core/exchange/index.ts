export { guessPatch, importEdit, moveKey, patchRows, type PatchRow, type Placing } from './import-pages';
export { pageFileOf, pageFileText, readPageFile, zoneFileOf, type PageFile } from './page-file';
export {
  guessMacroPatch,
  importMacrosEdit,
  macroFileOf,
  macroFileText,
  readMacroFile,
  type MacroFile,
} from './macro-file';
export { contentsOf } from './contents';
export {
  collectionOf,
  importCollectionEdit,
  laidOver,
  readCollection,
  sourcesUsed,
  type Collection,
} from './collection';
