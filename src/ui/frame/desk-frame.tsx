'use client';

import { useCallback, useEffect, useMemo, type ReactNode } from 'react';
import { familyOf, partsOf } from '../../core/net';
import { useDesk, useShow } from '../desk';
import { Notices } from '../kit';
import { useLive, useStatus } from '../live';
import { VeilOver } from '../parts';
import { CutOff } from './cut-off';
import { FailureMark } from './failure-mark';
import { Guide } from './guide';
import { HealthNotices } from './health-notices';
import { NewsLine } from './news-line';
import { Palette } from './palette';
import { RecordLine } from './record-line';
import { RunsLine } from './runs-line';
import { ServiceBar } from './service-bar';
import { SignalPath } from './signal-path';
import { AlertLine } from './alert-line';
import { AimSwitch, ThemeSwitch } from './switches';
import { ShortcutHelp } from './shortcut-help';
import { Veil } from './veil';

/** The frame of the desk: one line with the signal path, what is in service and the aim; below it the work. */
export function DeskFrame({ children }: { readonly children: ReactNode }) {
  const status = useStatus();
  const names = useHostNames();
  const live = useLive();
  const { saving } = useDesk();
  useEffect(() => live.here({ title: 'desk' }), [live]);
  return (
    <VeilOver value={useCallback((text: string) => partsOf(text, names), [names])}>
      <div className="desk flex h-dvh min-w-0 flex-col" data-storing={saving}>
        <a href="#work" className="absolute -left-249.75 focus:top-2 focus:left-2 focus:z-10 focus:bg-ground focus:p-2">
          To the work area
        </a>
        <header className="flex min-h-14 flex-wrap items-center gap-x-4 border-b border-rule px-4 py-1">
          <div className="flex max-w-32.5 flex-col leading-[1.2]">
            <span className="text-[15px] font-bold font-stretch-[112%]">Sorrelfinch</span>
            <span className="overflow-hidden text-[13px] text-ellipsis whitespace-nowrap text-ink-soft">
              {status?.show.name || '\u00a0'}
            </span>
          </div>
          <SignalPath />
          <div className="ml-auto flex items-center gap-2 [&_[data-slot=button]]:px-2.25 [&_[data-slot=button]]:py-0 [&_[data-slot=button]]:text-[14px]">
            <FailureMark />
            <Veil />
            <ServiceBar />
            <AimSwitch />
            <Palette />
            <ThemeSwitch />
          </div>
        </header>
        <CutOff />
        <AlertLine />
        <NewsLine />
        <Guide />
        <main
          id="work"
          className="min-h-0 flex-1 overflow-auto focus-visible:outline-none over-runs:pb-13.25"
          tabIndex={-1}
        >
          {children}
        </main>
        <RunsLine>
          <RecordLine />
        </RunsLine>
        <ShortcutHelp />
        <HealthNotices />
        <Notices />
      </div>
    </VeilOver>
  );
}

/** The host names of the rig: what is behind the veil beside addresses, which can be seen to be some. */
function useHostNames(): readonly string[] {
  const { show } = useShow();
  return useMemo(() => {
    const hosts = (show?.records ?? []).flatMap((record) => (record.kind === 'device' ? [record.data.host] : []));
    return [...new Set(hosts)].filter((host) => host !== '' && familyOf(host) === undefined);
  }, [show]);
}
