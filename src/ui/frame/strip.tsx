'use client';

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import { RadioGroup } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { useConnection, useLive, useStatus } from '../live';
import { Button, LinkWord } from '../parts';

/** The state of every link, on every screen. */
export function LinkStrip() {
  const status = useStatus();
  const devices = Object.entries(status?.devices ?? {}).sort(([, a], [, b]) => a.tag.localeCompare(b.tag));
  return (
    <ul className="links" aria-label="Links">
      {status && devices.length === 0 && <li className="muted">No devices in the rig yet.</li>}
      {devices.map(([id, device]) => (
        <li key={id}>
          <span className="tag">{device.tag}</span> <LinkWord link={device.link} />
        </li>
      ))}
    </ul>
  );
}

/** Where presses go. Seen on every screen; changed by the desk only. */
export function AimSwitch() {
  const status = useStatus();
  const live = useLive();
  const cut = useConnection().at !== 'open';
  return (
    <RadioGroup.Root
      className="aim"
      aria-label="Aim: where presses go"
      orientation="horizontal"
      value={status?.aim ?? ''}
      disabled={cut || !status}
      onValueChange={(aim) => live.setAim(aim === 'dry' ? 'dry' : 'live')}
    >
      <span className="aim-title" aria-hidden>
        Aim
      </span>
      <RadioGroup.Item value="live" className="aim-item">
        live
      </RadioGroup.Item>
      <RadioGroup.Item value="dry" className="aim-item aim-dry">
        dry
      </RadioGroup.Item>
    </RadioGroup.Root>
  );
}

/** The aim as a word, for panels, which cannot change it. */
export function AimWord() {
  const aim = useStatus()?.aim;
  return aim === 'dry' ? (
    <span className="aim-word">DRY · nothing is sent</span>
  ) : (
    <span className="muted">aim live</span>
  );
}

const never = () => () => undefined;

export function ThemeSwitch() {
  const { resolvedTheme, setTheme } = useTheme();
  const mounted = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const dark = !mounted || resolvedTheme !== 'light';
  return (
    <Button
      kind="ghost"
      onClick={() => setTheme(dark ? 'light' : 'dark')}
      aria-label={dark ? 'Light theme' : 'Dark theme'}
    >
      {dark ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
    </Button>
  );
}
