'use client';

import { useDesk, useShow } from '../desk';
import { Button, VeiledText } from '../parts';

/** What is in service, what waits as a draft, and the answer to the last action. */
export function ServiceBar() {
  const { show } = useShow();
  const { putInService, stepBack, leaveService, said } = useDesk();
  const service = show?.service;
  return (
    <div className="service">
      <span role="status" className={said?.bad ? 'said said-bad' : 'said'} title={said?.text}>
        {said?.bad && <span aria-hidden>✕ </span>}
        {said && <VeiledText text={said.text} />}
      </span>
      {service && (
        <>
          <span className="service-state">
            {service.running === null
              ? 'setting up: edits go through at once'
              : `revision ${service.running} in service${service.drafted > 0 ? ` · ${service.drafted} drafted` : ''}`}
          </span>
          {service.running !== null && (
            <>
              {service.canStepBack && <Button onClick={() => void stepBack()}>Step back</Button>}
              <Button onClick={() => void leaveService()}>Back to setting up</Button>
            </>
          )}
          {(service.running === null || service.drafted > 0) && (
            <Button kind="strong" onClick={() => void putInService()}>
              Put in service
            </Button>
          )}
        </>
      )}
    </div>
  );
}
