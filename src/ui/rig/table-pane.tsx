'use client';

import { useMemo, useState } from 'react';
import { enterTableEdit, readRigTable, rigTable, tableColumns, type DeskView } from '../../core/show';
import { useDesk } from '../desk';
import { Button, tableClass } from '../kit';
import { Cross, newId } from '../parts';

/** A rig as a table: pasted from a spreadsheet, looked at row by row before anything is entered; copied out without passwords. */
export function TablePane({ show, onDone }: { readonly show: DeskView; readonly onDone: () => void }) {
  const desk = useDesk();
  const [text, setText] = useState('');
  const [copied, setCopied] = useState<string>();
  const rows = useMemo(() => readRigTable(text, show.drivers, show.records), [text, show]);
  const good = rows.filter(({ device }) => device !== undefined);
  const enter = async () => {
    const { edit, ids } = enterTableEdit(good, () => newId('dev'));
    for (const [n, { password }] of good.entries()) {
      const id = ids[n];
      if (password !== undefined && id !== undefined && !(await desk.setPassword(id, password))) return;
    }
    if (await desk.edit(edit)) onDone();
  };
  const copy = async () => {
    const table = rigTable(show.records);
    try {
      await navigator.clipboard.writeText(table);
      setCopied('Copied, without passwords.');
    } catch {
      // Browsers refuse the clipboard to pages that came over plain HTTP.
      setText(table);
      setCopied('The browser does not allow copying. Copy it from the field.');
    }
  };
  return (
    <section className="border-t border-rule-strong pt-3 pb-3.5" aria-labelledby="table-title">
      <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
        <h2 id="table-title">A table of devices</h2>
        <Button onClick={() => void copy()}>Copy the rig as a table</Button>
        <span className="text-ink-soft" role="status">
          {copied}
        </span>
        <Button className="ml-auto" onClick={onDone}>
          Close
        </Button>
      </div>
      <div className="form">
        <label>
          Paste from a spreadsheet: {tableColumns.join(', ')}; with a heading in any order, without one in this order
          <textarea
            className="font-mono text-[0.93em]"
            rows={5}
            data-veil
            value={text}
            spellCheck={false}
            placeholder={'CAM5\tJib\tptz-camera\t10.0.20.15\t52381'}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
      </div>
      {rows.length > 0 && (
        <>
          <div className="my-2.5 max-h-85 overflow-auto">
            <table className={`${tableClass} text-[14px]`} aria-label="What each row becomes">
              <thead>
                <tr>
                  <th>Line</th>
                  <th>Tag</th>
                  <th>Name</th>
                  <th>Driver</th>
                  <th>Address</th>
                  <th>Port</th>
                  <th>What becomes of it</th>
                </tr>
              </thead>
              <tbody>
                {rows.map(({ line, cells, problems, changes, device, replaces }) => (
                  <tr key={line} className={device ? '' : 'hatch-tape [&_td:last-child]:font-semibold'}>
                    <td className="font-mono text-[0.93em]">{line}</td>
                    <td>{cells.tag}</td>
                    <td>{device?.name ?? cells.name}</td>
                    <td>{device?.driver ?? cells.driver}</td>
                    <td className="font-mono text-[0.93em]">
                      <span data-veil>{device?.host ?? cells.address}</span>
                    </td>
                    <td className="font-mono text-[0.93em]">{device?.port ?? cells.port}</td>
                    <td>
                      {!device && <Cross />}
                      {device
                        ? [replaces ? 'changes the device in the rig' : 'new', ...changes].join('; ')
                        : problems.map(({ path, message }) => `${path}: ${message}`).join('; ')}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <div className="col-span-full flex flex-wrap gap-2.5">
            <Button kind="strong" disabled={good.length === 0} onClick={() => void enter()}>
              {`Enter ${good.length === 1 ? '1 row' : `${good.length} rows`}`}
            </Button>
            {good.length < rows.length && (
              <span className="text-ink-soft">
                {rows.length - good.length} of {rows.length} rows are left out; correct them above.
              </span>
            )}
          </div>
        </>
      )}
    </section>
  );
}
