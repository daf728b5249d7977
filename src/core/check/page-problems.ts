import { hasReading } from '../face';
import { readingsOfCall } from '../page';
import type { PageRecord, ReadingRef, Zone } from '../show';
import { knowingOwn, type Sources } from './control-problems';

/** What of a page itself will not work, and the page as it is once that is taken out. */
export interface PageProblem {
  readonly message: string;
  /** What the repair is called. */
  readonly act: string;
  readonly to: PageRecord['data'];
}

/** Everything in a page and its zones that names what is not there any more: devices to pick, readings to go with. */
export function problemsOfPage({ data }: PageRecord, given: Sources): PageProblem[] {
  const sources = knowingOwn(given);
  const found: PageProblem[] = [];
  const { calledBy: _, ...uncalled } = data;
  const [lost] = readingsOfCall(data).flatMap((ref) => lostReading(ref, sources) ?? []);
  if (lost) found.push({ message: `The page is called by ${lost}.`, act: 'Let nothing call it', to: uncalled });
  for (const zone of data.zones) {
    const { pick, ...plain } = zone;
    if (!pick) continue;
    const withZone = (to: Zone) => ({ ...data, zones: data.zones.map((each) => (each === zone ? to : each)) });
    const devices = pick.devices.filter((id) => sources.device(id));
    const gone = pick.devices.length - devices.length;
    if (gone > 0) {
      const what = gone === 1 ? 'a device that is' : `${gone} devices that are`;
      found.push({
        message: `${nameOf(zone)} picks among ${what} no longer in the rig.`,
        act: devices.length > 1 ? `Pick among the ${devices.length} that are` : 'Let it pick nothing',
        to: withZone(devices.length > 1 ? { ...zone, pick: { ...pick, devices } } : plain),
      });
    }
    const follow = pick.follow?.filter((ref) => lostReading(ref, sources) === undefined) ?? [];
    const [unfollowed] = pick.follow?.flatMap((ref) => lostReading(ref, sources) ?? []) ?? [];
    if (unfollowed)
      found.push({
        message: `${nameOf(zone)} follows ${unfollowed}.`,
        act: follow.length > 0 ? 'Remove it from the list' : 'Follow nothing',
        to: withZone({ ...zone, pick: follow.length > 0 ? { ...pick, follow } : { devices: pick.devices } }),
      });
  }
  return found;
}

/** What has gone of a reading, in words; `undefined` when it is there. */
function lostReading({ device: id, key }: ReadingRef, sources: Sources): string | undefined {
  const device = sources.device(id);
  if (!device) return 'a reading of a device that is no longer in the rig';
  const document = sources.document(device);
  return document && !hasReading(document, key)
    ? `a reading that ${device.data.tag} does not have (“${key}”)`
    : undefined;
}

const nameOf = ({ title }: Zone): string => (title === '' ? 'A zone without a title' : `The zone “${title}”`);
