import { processLog } from '../log';
import { servePictures } from '../pictures';
import { beChild, childVariables } from './child-messages';
import { principalHeader, readPrincipal } from './principal-header';

/** The relay's process: pictures of devices are fetched, made smaller and handed to screens away from the engine. */
const variable = (name: string): string => process.env[name] ?? '';
const token = variable(childVariables.token);
const tell = beChild(
  () => {
    pictures.stop();
    return Promise.resolve();
  },
  undefined,
  true,
);
const log = processLog('pictures');
const pictures = await servePictures({
  port: Number(variable(childVariables.picturesPort)),
  token,
  admits: ({ headers }) => {
    const header = headers[principalHeader];
    return readPrincipal(Array.isArray(header) ? header[0] : header, token) !== undefined;
  },
  onFault: (cause) => log.error({ cause }, 'A request could not be answered.'),
});
tell({ type: 'ready' });
