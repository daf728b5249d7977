'use client';

import { ChevronDown } from 'lucide-react';
import { useDesk, useShow } from '../desk';
import { Button, Menu } from '../kit';

/** What is in service and what waits as a draft, with the ways from one to the other. */
export function ServiceBar() {
  const { show } = useShow();
  const { putInService, stepBack, leaveService } = useDesk();
  const service = show?.service;
  if (!service) return null;
  const { running, drafted, canStepBack } = service;
  return (
    <div role="group" aria-label="Service" className="flex shrink-0 items-center gap-2 text-[14px]">
      {running === null ? (
        <span className="whitespace-nowrap text-ink-soft" title="Edits go to the panels at once">
          Setting up
        </span>
      ) : (
        <Menu
          acts={[
            ...(canStepBack ? [{ title: 'Step back to the previous revision', run: () => void stepBack() }] : []),
            { title: 'Back to setting up', run: () => void leaveService() },
          ]}
        >
          <Button kind="ghost" title={`Revision ${running} is in service; edits gather as a draft`}>
            <span className="text-left leading-tight whitespace-nowrap">
              <b className="block font-semibold">In service</b>
              <span className="block text-[12px] text-ink-soft">
                revision {running}
                {drafted > 0 && ` · ${drafted} drafted`}
              </span>
            </span>
            <ChevronDown aria-hidden className="size-4" />
          </Button>
        </Menu>
      )}
      {(running === null || drafted > 0) && (
        <Button kind={drafted > 0 ? 'strong' : 'plain'} onClick={() => void putInService()}>
          Put in service
        </Button>
      )}
    </div>
  );
}
