'use client';

import type { PanelRecord } from '../../core/show';
import { NumberField, Switch } from '../kit';

interface Props {
  readonly panel: PanelRecord['data'];
  readonly onChange: (to: Partial<PanelRecord['data']>, what: string) => void;
}

/** How the screens of a panel behave. */
export function PanelSettings({ panel, onChange }: Props) {
  const { name, brightness, topSpeed = 1, linked = false, follows = false, tellsHealth = false } = panel;
  return (
    <div
      role="group"
      aria-label={`Settings of ${name}`}
      className="grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] items-start gap-x-6 gap-y-3 pt-2.5 [&_input]:w-24"
    >
      <NumberField
        label="Brightness"
        unit="%"
        min={20}
        max={100}
        step={5}
        value={brightness}
        onCommit={(to) => onChange({ brightness: Math.round(to) }, 'Brightness')}
      />
      <NumberField
        label="Top speed"
        unit="%"
        min={5}
        max={100}
        step={5}
        value={Math.round(topSpeed * 100)}
        help="The top speed of sticks and rockers on this panel, as a share of each camera’s setting."
        onCommit={(to) => onChange({ topSpeed: to === 100 ? undefined : to / 100 }, 'Top speed')}
      />
      <Explained text="All screens of this panel show the same page, level and picks.">
        <Switch label="Linked" checked={linked} onChange={(on) => onChange({ linked: on || undefined }, 'Link')} />
      </Explained>
      <Explained text="Screens of this panel go to the page that is called. This can be turned off on each screen.">
        <Switch
          label="Follows"
          checked={follows}
          onChange={(on) => onChange({ follows: on || undefined }, 'Following pages')}
        />
      </Explained>
      <Explained text="The screens of this panel show when a value on the Health page exceeds its limit.">
        <Switch
          label="Notices"
          checked={tellsHealth}
          onChange={(on) => onChange({ tellsHealth: on || undefined }, 'Health notices')}
        />
      </Explained>
    </div>
  );
}

const Explained = ({ text, children }: { readonly text: string; readonly children: React.ReactNode }) => (
  <div className="grid gap-1">
    {children}
    <p className="text-[13px] text-ink-soft">{text}</p>
  </div>
);
