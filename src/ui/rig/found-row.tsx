import type { FoundDevice } from '../../core/live';
import { VeiledText } from '../parts';
import { Button, Select } from '../kit';

const sureShort = { answered: 'answered', greeted: 'greets', 'port only': 'port only' } as const;
const sureWords = { answered: 'answered as', greeted: 'greets like', 'port only': 'port open; perhaps' } as const;

/** What tells one found place from another. */
export const keyOf = ({ address, port, kind }: FoundDevice): string => `${kind} ${address} ${port}`;

interface RowProps {
  readonly found: FoundDevice;
  readonly chosen: boolean;
  /** As which driver it would be added. */
  readonly driver: string;
  readonly onDriver: (id: string) => void;
  readonly onToggle: () => void;
  readonly onFollow: () => void;
}

/** One place that was found: what is there, as which driver it can be added, and which device of the rig it is. */
export function FoundRow({ found, chosen, driver, onDriver, onToggle, onFollow }: RowProps) {
  const [best] = found.drivers;
  const isOffered = found.inRig === undefined && found.drivers.length > 1;
  const says = [
    found.model,
    found.firmware && `firmware ${found.firmware}`,
    found.serial && `serial ${found.serial}`,
    found.mac,
  ];
  const where = `${found.address}:${found.port}`;
  return (
    <li className="grid min-h-9 grid-cols-[22px_210px_minmax(0,1.3fr)_minmax(0,1fr)] items-center gap-3 border-b border-rule">
      {found.inRig === undefined && best ? (
        <input type="checkbox" checked={chosen} onChange={onToggle} aria-label={`Select the device at ${where}`} />
      ) : (
        <span />
      )}
      <span className="font-mono text-[0.93em]">
        <span data-veil>{where}</span> {found.kind === 'udp' && <span className="text-ink-soft">UDP</span>}
      </span>
      <span>
        {found.announced && (
          <span className="block">
            announces itself as “{found.announced.name}”{' '}
            <span className="font-mono text-[0.93em] text-ink-soft">{found.announced.service}</span>
          </span>
        )}
        {best ? (
          <>
            {!(found.announced && best.sure === 'port only') && `${sureWords[best.sure]} `}
            {isOffered ? (
              <Select
                label={`Driver of what is at ${where}`}
                labelAt="hidden"
                value={driver}
                options={found.drivers.map(({ id, title, sure }) => ({
                  value: id,
                  title: `${title} · ${sureShort[sure]}`,
                }))}
                onChoose={onDriver}
              />
            ) : (
              <b>{best.title}</b>
            )}{' '}
          </>
        ) : (
          <VeiledText text={found.like ?? 'open; nothing that a driver knows'} />
        )}
        <span className="text-ink-soft">
          {[...says, best && found.like && `looks like ${found.like}`].filter(Boolean).join(', ')}
        </span>
      </span>
      <span>
        {found.inRig !== undefined && <span className="text-ink-soft">in the rig as {found.inRig}</span>}
        {found.moved && (
          <>
            {found.moved.certain ? 'this is' : 'perhaps'}{' '}
            <span className="font-mono text-[0.93em] font-semibold">{found.moved.tag}</span>, which was at{' '}
            <span className="font-mono text-[0.93em]" data-veil>
              {found.moved.from}
            </span>{' '}
            <Button onClick={onFollow}>{`${found.moved.tag} moved here`}</Button>
          </>
        )}
      </span>
    </li>
  );
}
