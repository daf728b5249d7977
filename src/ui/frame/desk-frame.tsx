'use client';

import type { ReactNode } from 'react';
import { useStatus } from '../live';
import { CutOff } from './cut-off';
import { Palette } from './palette';
import { ServiceBar } from './service-bar';
import { SignalPath } from './signal-path';
import { AimSwitch, LinkStrip, ThemeSwitch } from './strip';
import { Veil } from './veil';

/** The frame of the desk: the signal path, the state of every link, the aim, and what is in service. */
export function DeskFrame({ children }: { readonly children: ReactNode }) {
  const status = useStatus();
  return (
    <div className="desk">
      <a href="#work" className="skip">
        To the work area
      </a>
      <header className="desk-head">
        <div className="wordmark">
          <span className="wordmark-name">Sorrelfinch</span>
          <span className="wordmark-show">{status?.show.name || '\u00a0'}</span>
        </div>
        <SignalPath />
        <div className="desk-tools">
          <Palette />
          <ThemeSwitch />
        </div>
      </header>
      <div className="strip" role="region" aria-label="State of the show">
        <LinkStrip />
        <Veil />
        <ServiceBar />
        <AimSwitch />
      </div>
      <CutOff />
      <main id="work" className="desk-work" tabIndex={-1}>
        {children}
      </main>
    </div>
  );
}
