export { httpApp, type Listener } from './app';
export { HttpError } from './http-error';
export { answerLines, answerText } from './lines';
export { listen } from './listen';
export { openApiOf } from './openapi';
export { routeFor } from './route';
export { signedGet } from './signed-get';
