'use client';

import type { ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';

interface Props {
  /** The browser remembers how the room was shared under this name. */
  readonly name: string;
  readonly main: ReactNode;
  /** What is opened beside it; on a narrow screen it takes the whole room. */
  readonly side: ReactNode;
  /** How wide it is until somebody moves the edge. */
  readonly sideSize?: string;
}

/** On a narrow screen the details have the whole room. */
const narrowClass = 'max-[900px]:[&>div:first-child]:hidden! max-[900px]:[&>div:last-child]:flex-[1_1_100%]!';

const nowhere = { getItem: () => null, setItem: () => undefined };

/** The work, and beside it the details of one thing, with an edge that is dragged or moved by arrow keys. */
export function SplitPanes({ name, main, side, sideSize = '36%' }: Props) {
  const isOpen = side !== undefined && side !== null && side !== false;
  const layout = useDefaultLayout({
    id: `sorrelfinch-panes-${name}`,
    panelIds: isOpen ? ['main', 'side'] : ['main'],
    storage: typeof localStorage === 'undefined' ? nowhere : localStorage,
  });
  return (
    <Group orientation="horizontal" className={`min-h-0 flex-1 ${isOpen ? narrowClass : ''}`} {...layout}>
      <Panel id="main" minSize={isOpen ? 360 : 0}>
        {main}
      </Panel>
      {isOpen && (
        <>
          <Separator
            aria-label="Width of the details"
            className="w-px bg-rule hover:bg-accent data-[separator=active]:bg-accent max-[900px]:hidden"
          />
          <Panel id="side" defaultSize={sideSize} minSize={280} groupResizeBehavior="preserve-pixel-size">
            {side}
          </Panel>
        </>
      )}
    </Group>
  );
}
