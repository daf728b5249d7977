'use client';

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import { RadioGroup } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { useConnection, useLive, useStatus } from '../live';

import { Button } from '../kit';
import { askToRehearse, RehearseDialog } from './rehearse-dialog';

/** Where presses go. Seen on every screen; changed by the desk only. */
export function AimSwitch() {
  const status = useStatus();
  const live = useLive();
  const cut = useConnection().at !== 'open';
  return (
    <RadioGroup.Root
      className="flex items-center gap-0"
      aria-label="Aim: where presses go"
      orientation="horizontal"
      value={status?.aim ?? ''}
      disabled={cut || !status}
      onValueChange={(aim) => (aim === 'rehearse' ? askToRehearse() : live.setAim(aim === 'dry' ? 'dry' : 'live'))}
    >
      <RadioGroup.Item
        value="live"
        className="min-h-9 border border-rule-strong px-2.25 text-[14px] not-[:first-child]:border-l-0 data-[state=checked]:bg-accent data-[state=checked]:font-bold data-[state=checked]:text-accent-ink"
      >
        Live
      </RadioGroup.Item>
      <RadioGroup.Item
        value="rehearse"
        className="min-h-9 border border-rule-strong px-2.25 text-[14px] not-[:first-child]:border-l-0 data-[state=checked]:bg-warning data-[state=checked]:font-bold data-[state=checked]:text-warning-ink"
      >
        Rehearse
      </RadioGroup.Item>
      <RadioGroup.Item
        value="dry"
        className="min-h-9 border border-rule-strong px-2.25 text-[14px] not-[:first-child]:border-l-0 data-[state=checked]:bg-warning data-[state=checked]:font-bold data-[state=checked]:text-warning-ink"
      >
        Dry
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
      {dark ? <Sun aria-hidden className="size-4" /> : <Moon aria-hidden className="size-4" />}
    </Button>
  );
}
