import { demoPresetPictures } from '../../demo/cameras';
import { demoPasswords, demoShow } from '../../demo/show';
import type { Edit } from '../core/show';
import { standinPorts } from '../standins';
import { recoverShow, type Recover } from './recover-show';
import {
  allRecords,
  commitEdit,
  openShow,
  putPicture,
  readMeta,
  recordsOfKind,
  scaledPicture,
  trimHistory,
  writeMeta,
  writePassword,
} from '../store';

/**
 * Makes the data folder ready before any child starts: creates and migrates the database and, for the demo, loads the
 * demo show when the folder has no show yet. Runs once, as a process of its own.
 */
export function prepare(dataDir: string, demo: boolean, standinPortBase: number, recover?: Recover): void {
  const said = recoverShow(dataDir, recover, Date.now());
  if (said !== undefined) console.log(said);
  const { db, close } = openShow(dataDir);
  try {
    if (allRecords(db).length === 0) {
      const records = demo ? demoShow(standinPortBase) : emptyShow();
      const edit: Edit = { title: 'Start of the show', changes: records.map((record) => ({ op: 'add', record })) };
      const done = commitEdit(db, edit, 'preparation', Date.now());
      if (!done.ok) throw new Error(done.error.message);
      if (demo) for (const [device, password] of demoPasswords) writePassword(db, dataDir, device, password);
    } else if (demo && Number(readMeta(db, 'standin-port-base') ?? standinPortBase) !== standinPortBase) {
      moveStandins(db, standinPortBase);
    }
    trimHistory(db, Date.now());
    if (demo) writeMeta(db, 'standin-port-base', String(standinPortBase));
  } finally {
    close();
  }
}

/** Adds the pictures of the demo's presets, as the cameras would have handed them out. */
export async function addPresetPictures(dataDir: string): Promise<void> {
  const { db, close } = openShow(dataDir);
  try {
    const pictures = demoPresetPictures();
    const bare = recordsOfKind(db, 'preset').filter(({ id, data }) => data.picture === undefined && pictures.has(id));
    const changes = await Promise.all(
      bare.map(async (from) => {
        const scaled = await scaledPicture(Buffer.from(pictures.get(from.id) ?? ''));
        const put = scaled.ok ? putPicture(db, scaled.value) : scaled;
        return put.ok
          ? [{ op: 'update' as const, from, to: { ...from, data: { ...from.data, picture: put.value } } }]
          : [];
      }),
    );
    commitEdit(db, { title: 'Pictures of the presets', changes: changes.flat() }, 'preparation', Date.now());
  } finally {
    close();
  }
}

/** The stand-ins were started on other ports than last time: the demo's devices follow them. */
function moveStandins(db: ReturnType<typeof openShow>['db'], portBase: number): void {
  const before = Number(readMeta(db, 'standin-port-base'));
  const changes = recordsOfKind(db, 'device').flatMap((from) => {
    const offset = standinPorts[from.data.tag as keyof typeof standinPorts];
    if (
      offset === undefined ||
      (from.data.host !== '127.0.0.1' && !from.data.through) ||
      from.data.port !== before + offset
    )
      return [];
    const { options: given } = from.data;
    // The cameras’ pictures are on the port of the pages.
    const options = given.stillPort === before ? { ...given, stillPort: portBase } : given;
    return [{ op: 'update' as const, from, to: { ...from, data: { ...from.data, port: portBase + offset, options } } }];
  });
  if (changes.length > 0) commitEdit(db, { title: 'Stand-ins on other ports', changes }, 'preparation', Date.now());
}

const emptyShow = () => [{ kind: 'show' as const, id: 'show', version: 1, data: { name: 'New show', note: '' } }];
