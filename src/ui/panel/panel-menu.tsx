'use client';

import { useState } from 'react';
import { nameScreen, screenTitle } from './panel-memory';

interface Props {
  readonly brightness: number;
  readonly awake: 'kept' | 'refused' | 'asking';
  readonly onBrightness: (to: number) => void;
  readonly onTitle: () => void;
  readonly onLock: () => void;
  readonly onClose: () => void;
}

/** What this viewing device does with the panel: its brightness, its name, the whole screen. */
export default function PanelMenu(props: Props) {
  const { brightness, awake, onBrightness, onTitle, onLock, onClose } = props;
  const [title, setTitle] = useState(screenTitle);
  const [theme, setTheme] = useState(() => document.documentElement.dataset.theme ?? 'dark');
  const whole = document.fullscreenElement !== null;
  return (
    <section
      className="panel-menu grid grid-cols-[repeat(auto-fit,minmax(260px,1fr))] items-end gap-x-7 gap-y-3 border-b border-rule-strong bg-raised p-3 [&_:is(input:not([type=checkbox]),button)]:min-h-11 [&_button]:border [&_button]:border-rule-strong [&_button]:bg-tape [&_button]:px-3.5 [&_input:not([type=range]):not([type=checkbox])]:border [&_input:not([type=range]):not([type=checkbox])]:border-rule-strong [&_input:not([type=range]):not([type=checkbox])]:bg-tape [&_input:not([type=range]):not([type=checkbox])]:px-3.5 [&_input:not([type=range]):not([type=checkbox])]:py-0 [&_label]:grid [&_label]:gap-1"
      aria-label="This screen"
    >
      <label>
        Brightness <span className="float-right">{brightness} %</span>
        <input
          type="range"
          min={20}
          max={100}
          step={5}
          value={brightness}
          onChange={(event) => onBrightness(Number(event.target.value))}
        />
      </label>
      <label>
        Name of this screen, for the desk
        <input
          value={title}
          maxLength={40}
          onChange={(event) => setTitle(event.target.value)}
          onBlur={() => {
            nameScreen(title.trim());
            onTitle();
          }}
        />
      </label>
      <div className="flex flex-wrap gap-2">
        {document.fullscreenEnabled && (
          <button
            type="button"
            onClick={() => void (whole ? document.exitFullscreen() : document.documentElement.requestFullscreen())}
          >
            {whole ? 'Exit full screen' : 'Full screen'}
          </button>
        )}
        <button
          type="button"
          onClick={() => {
            const to = theme === 'light' ? 'dark' : 'light';
            document.documentElement.dataset.theme = to;
            localStorage.setItem('theme', to);
            setTheme(to);
          }}
        >
          {theme === 'light' ? 'Dark' : 'Light'}
        </button>
        <button type="button" onClick={onLock}>
          Lock touch
        </button>
        <button type="button" onClick={onClose}>
          Close
        </button>
      </div>
      <p className="text-ink-soft">
        {awake === 'kept'
          ? 'This screen is kept awake.'
          : window.isSecureContext
            ? 'The browser does not keep this screen awake. Set the device not to sleep.'
            : 'At this address the browser cannot keep the screen awake or install the panel: join over https.'}
      </p>
    </section>
  );
}
