'use client';

import { Command } from 'cmdk';
import { Search } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useTheme } from 'next-themes';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useDesk } from '../desk';
import { useLive, useStatus } from '../live';

import { askToRehearse } from './rehearse-dialog';
import { guideWanted } from './guide-store';
import { askForShortcuts } from './shortcut-help';
import { isTyping, keysText, shortcutOf, shortcuts } from './shortcuts';
import { Button } from '../kit';
import { toggleVeil } from './veil';

interface Act {
  readonly title: string;
  readonly keys?: string;
  readonly run: () => void;
}

const keys = shortcuts.desk;

/** Everything that can be done, by typing a word of it; also the list of the shortcuts. */
export function Palette() {
  const [open, setOpen] = useState(false);
  const router = useRouter();
  const live = useLive();
  const desk = useDesk();
  const status = useStatus();
  const { resolvedTheme, setTheme } = useTheme();

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const shortcut = shortcutOf('desk', event);
      if (shortcut === 'palette') setOpen((was) => !was);
      else if (shortcut === 'veil') {
        if (!event.repeat) toggleVeil();
      } else if (isTyping(event.target)) return;
      else if (shortcut === 'undo') void desk.undo();
      else if (shortcut === 'redo') void desk.redo();
      else if (shortcut === 'help') askForShortcuts();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [desk]);

  const acts: readonly Act[] = [
    { title: 'Go to Rig', run: () => router.push('/rig') },
    { title: 'Go to Drivers', run: () => router.push('/drivers') },
    { title: 'Go to Show and network', run: () => router.push('/show') },
    { title: 'Go to Wire', run: () => router.push('/wire') },
    ...(status?.pages ?? []).map(({ id, name }) => ({
      title: `Go to page ${name}`,
      run: () => router.push(`/pages/${id}`),
    })),
    ...(status?.pages ?? []).map(({ id, name }) => ({
      title: `Open page ${name} as a panel`,
      run: () => void window.open(`/panel/${id}`),
    })),
    { title: 'Go to Snapshots', run: () => router.push('/snapshots') },
    { title: 'Go to Watches', run: () => router.push('/watches') },
    { title: 'Go to Variables', run: () => router.push('/variables') },
    { title: 'Go to Inlets', run: () => router.push('/inlets') },
    { title: 'Go to Line check', run: () => router.push('/line-check') },
    { title: 'Go to Burn-in', run: () => router.push('/line-check/burn-in') },
    { title: 'Go to Fault drills', run: () => router.push('/line-check/drills') },
    { title: 'Go to Panels', run: () => router.push('/panels') },
    { title: 'Go to Health', run: () => router.push('/health') },
    ...(status?.panels ?? []).map(({ name, path }) => ({
      title: `Open panel ${name}`,
      run: () => void window.open(`/panel/${path}`),
    })),
    { title: 'Go to Replay', run: () => router.push('/as-run/replay') },
    { title: 'Go to As-run', run: () => router.push('/as-run') },
    { title: keys.undo.title, keys: keys.undo.shown, run: () => void desk.undo() },
    { title: keys.redo.title, keys: keys.redo.shown, run: () => void desk.redo() },
    { title: 'Aim live', run: () => live.setAim('live') },
    { title: 'Aim rehearse', run: askToRehearse },
    { title: 'Aim dry', run: () => live.setAim('dry') },
    { title: keys.veil.title, keys: keys.veil.shown, run: toggleVeil },
    { title: 'List the shortcuts', keys: keys.help.shown, run: askForShortcuts },
    { title: 'Show the first steps', run: () => guideWanted.set('on') },
    { title: 'Put the show in service', run: () => void desk.putInService() },
    {
      title: resolvedTheme === 'light' ? 'Dark theme' : 'Light theme',
      run: () => setTheme(resolvedTheme === 'light' ? 'dark' : 'light'),
    },
  ];
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button kind="ghost" aria-label="Find an action" title="Find an action (Ctrl K)">
          <Search aria-hidden className="size-4" />
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
        <Dialog.Content
          className="fixed top-[14vh] left-1/2 w-[min(560px,92vw)] -translate-x-1/2 border-2 border-rule-strong bg-ground"
          aria-describedby={undefined}
        >
          <Dialog.Title className="sr-only">Find an action</Dialog.Title>
          <Command label="Actions">
            <Command.Input
              placeholder="Search actions"
              className="min-h-0 w-full border-0 border-b border-rule bg-transparent px-4 py-3.5"
            />
            <Command.List className="max-h-[50vh] overflow-auto">
              <Command.Empty className="flex justify-between px-4 py-2.5 text-ink-soft data-[selected=true]:bg-accent data-[selected=true]:text-accent-ink">
                No action matches.
              </Command.Empty>
              {acts.map((act) => (
                <Command.Item
                  key={act.title}
                  className="flex justify-between px-4 py-2.5 data-[selected=true]:bg-accent data-[selected=true]:text-accent-ink"
                  onSelect={() => {
                    setOpen(false);
                    act.run();
                  }}
                >
                  <span>{act.title}</span>
                  {act.keys && <kbd>{keysText(act.keys)}</kbd>}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
