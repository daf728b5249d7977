export {
  decodePicture,
  encodePicture,
  pictureProblems,
  viewerMessageSchema,
  type PictureHead,
  type PictureProblem,
  type RelayMessage,
  type ViewerMessage,
} from './messages';
export { boundaryOf, MultipartFramer } from './multipart';
export { pictureTypeOf } from './picture-type';
export {
  addressProblems,
  maxPictureSources,
  pathAt,
  pictureSourcesSchema,
  readPictureAddress,
  retryAfterMs,
  widthToAsk,
  type PictureSource,
} from './source';
