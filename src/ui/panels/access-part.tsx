'use client';

import { clockPanel, tallyPanel, walkPanel } from '../../core/live';
import { useLive, useAccess, useNow, useScreens, useStatus } from '../live';
import { Button } from '../kit';
import { ageText, Cross, durationText } from '../parts';

/** Columns that line up over all three kinds of rows; on a narrow screen they follow one another. */
const row =
  'grid grid-cols-1 items-center gap-x-4 gap-y-1 border-b border-[var(--rule)] py-2 md:grid-cols-[280px_200px_minmax(140px,1fr)_auto]';

/** Screens for one purpose, by what stands for their panel. */
const purposes: Readonly<Record<string, string>> = {
  [tallyPanel]: 'Tally',
  [walkPanel]: 'Walk-round',
  [clockPanel]: 'Clock',
};

/** Who can come in from elsewhere: screens that have joined, invitations that nobody has used, and wrong access keys. */
export function AccessPart() {
  const live = useLive();
  const now = useNow();
  const access = useAccess();
  const screens = useScreens();
  const status = useStatus();
  const { joined = [], invites = [], wrongKeys = [] } = access ?? {};
  if (joined.length + invites.length + wrongKeys.length === 0) return null;
  const panelName = (id: string) =>
    purposes[id] ?? status?.panels.find((panel) => panel.id === id)?.name ?? 'a panel that was removed';
  const here = new Set(Object.values(screens ?? {}).map((screen) => screen.joined));
  const ago = (at: number) => `${ageText(Math.max(0, (now || at) - at))} ago`;
  return (
    <section aria-labelledby="access-title" className="mt-7">
      <h2 id="access-title">Access from other computers</h2>
      <ul>
        {joined.map(({ id, panel, device, at }) => (
          <li key={id} className={row} aria-label={`Joined screen, ${device}, ${panelName(panel)}`}>
            <span className="flex flex-wrap gap-x-3 gap-y-0">
              <b>{panelName(panel)}</b>
              <span className="text-ink-soft">{device}</span>
            </span>
            <span>joined {ago(at)}</span>
            <span className={here.has(id) ? '' : 'text-ink-soft'}>{here.has(id) ? 'connected' : 'not connected'}</span>
            <Button kind="ghost" onClick={() => live.throwOut(id)}>
              Revoke access
            </Button>
          </li>
        ))}
        {invites.map(({ id, panel, until }) => (
          <li key={id} className={row} aria-label={`Invitation, ${panelName(panel)}`}>
            <span className="flex flex-wrap gap-x-3 gap-y-0">
              <b>{panelName(panel)}</b>
              <span className="text-ink-soft">invitation</span>
            </span>
            <span>not used yet</span>
            <span className="text-ink-soft">
              {now > 0 && (until > now ? `${durationText(until - now)} left` : 'expired')}
            </span>
            <Button kind="ghost" onClick={() => live.withdraw(id)}>
              Withdraw invitation
            </Button>
          </li>
        ))}
        {wrongKeys.map(({ address, tries, at, until }) => (
          <li key={address} className={row} aria-label={`Wrong access keys from ${address}`}>
            <span className="flex flex-wrap gap-x-3 gap-y-0">
              <b>
                <Cross />
                {tries} wrong access key{tries === 1 ? '' : 's'}
              </b>
              <span className="font-mono text-[0.93em] text-ink-soft" data-veil>
                {address}
              </span>
            </span>
            <span>last {ago(at)}</span>
            <span className="text-ink-soft">
              {now > 0 && until > now ? `refused for ${durationText(until - now)}` : ''}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
