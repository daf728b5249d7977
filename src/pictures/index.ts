export { servePictures } from './serve';
