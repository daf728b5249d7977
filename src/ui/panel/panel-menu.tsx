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
    <section className="panel-menu" aria-label="This screen">
      <label>
        Brightness <span className="panel-amount">{brightness} %</span>
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
      <div className="panel-menu-acts">
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
      <p className="muted">
        {awake === 'kept'
          ? 'This screen is kept awake.'
          : window.isSecureContext
            ? 'The browser does not keep this screen awake. Set the device not to sleep.'
            : 'At this address the browser cannot keep the screen awake or install the panel: join over https.'}
      </p>
    </section>
  );
}
