'use client';

import { useTheme } from 'next-themes';
import { RadioGroup } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { useConnection, useLive, useStatus } from '../live';
import { Icon } from '../page';
import { Button } from '../parts';
import { askToRehearse, RehearseDialog } from './rehearse-dialog';

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
      onValueChange={(aim) => (aim === 'rehearse' ? askToRehearse() : live.setAim(aim === 'dry' ? 'dry' : 'live'))}
    >
      <span className="aim-title" aria-hidden>
        Aim
      </span>
      <RadioGroup.Item value="live" className="aim-item">
        live
      </RadioGroup.Item>
      <RadioGroup.Item value="rehearse" className="aim-item aim-dry">
        rehearse
      </RadioGroup.Item>
      <RadioGroup.Item value="dry" className="aim-item aim-dry">
        dry
      </RadioGroup.Item>
      <RehearseDialog />
    </RadioGroup.Root>
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
      <Icon name={dark ? 'sun' : 'moon'} />
    </Button>
  );
}
