export {
  byPlaceEdit,
  favouriteEdit,
  forgetEdit,
  getBackEdit,
  movedOrder,
  nameEdit,
  orderEdit,
  pictureEdit,
  presetName,
  presetsOf,
  storeEdit,
  withoutCamera,
} from './edits';
export { isAtPlace, placeKeys, placeNow, recallSends } from './place';
export { camerasOf, readingsOfTiles, tilesNow, type PresetTile, type TileSources } from './tiles';
