'use client';

import { useMemo, useState } from 'react';
import { enterTableEdit, readRigTable, rigTable, tableColumns, type DeskView } from '../../core/show';
import { useDesk } from '../desk';
import { Button, Cross, newId } from '../parts';

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
    <section className="table-pane" aria-labelledby="table-title">
      <div className="screen-head">
        <h2 id="table-title">A table of devices</h2>
        <Button onClick={() => void copy()}>Copy the rig as a table</Button>
        <span className="muted" role="status">
          {copied}
        </span>
        <Button className="head-end" onClick={onDone}>
          Close
        </Button>
      </div>
      <div className="form">
        <label>
          Paste from a spreadsheet: {tableColumns.join(', ')}; with a heading in any order, without one in this order
          <textarea
            className="mono"
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
          <div className="table-box">
            <table className="table" aria-label="What each row becomes">
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
                  <tr key={line} className={device ? '' : 'table-bad'}>
                    <td className="mono">{line}</td>
                    <td>{cells.tag}</td>
                    <td>{device?.name ?? cells.name}</td>
                    <td>{device?.driver ?? cells.driver}</td>
                    <td className="mono">
                      <span data-veil>{device?.host ?? cells.address}</span>
                    </td>
                    <td className="mono">{device?.port ?? cells.port}</td>
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
          <div className="form-acts">
            <Button kind="strong" disabled={good.length === 0} onClick={() => void enter()}>
              {`Enter ${good.length === 1 ? '1 row' : `${good.length} rows`}`}
            </Button>
            {good.length < rows.length && (
              <span className="muted">
                {rows.length - good.length} of {rows.length} rows are left out; correct them above.
              </span>
            )}
          </div>
        </>
      )}
    </section>
  );
}
