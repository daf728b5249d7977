'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';

interface Props<Row> {
  readonly rows: readonly Row[];
  readonly label: string;
  readonly columns: readonly string[];
  /** The widths of the columns, as a class of the grid. */
  readonly columnClass?: string;
  readonly rowHeight: number;
  /** Keep the last row in sight. */
  readonly following?: boolean;
  readonly keyOf: (row: Row) => number;
  readonly cells: (row: Row) => ReactNode;
  readonly rowClass?: (row: Row) => string;
}

/** A long table of which only the rows in sight are drawn. */
export function VirtualRows<Row>(props: Props<Row>) {
  'use no memo';
  const { rows, label, columns, columnClass = '', rowHeight, following, keyOf, cells, rowClass } = props;
  const box = useRef<HTMLDivElement>(null);
  // The virtualizer keeps state of its own; nothing here is memoised on it.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const last = rows.length - 1;
  useEffect(() => {
    if (following && last >= 0) virtual.scrollToIndex(last, { align: 'end' });
  }, [following, last, virtual]);
  return (
    <div
      role="table"
      aria-label={label}
      aria-rowcount={rows.length}
      className="flex min-h-0 flex-1 flex-col border-t border-rule-strong text-[14px] [&>div:last-child]:min-h-0"
    >
      <div role="rowgroup">
        <div
          role="row"
          className={`grid min-h-7 items-center gap-3.5 border-b border-rule px-1.5 text-[13px] whitespace-nowrap text-ink-soft [&>span]:overflow-hidden [&>span]:text-ellipsis ${columnClass}`}
        >
          {columns.map((column) => (
            <span key={column} role="columnheader">
              {column}
            </span>
          ))}
        </div>
      </div>
      <div ref={box} role="rowgroup" className="min-h-0 flex-1 overflow-auto" tabIndex={0}>
        <div role="presentation" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (row === undefined) return null;
            return (
              <div
                key={keyOf(row)}
                role="row"
                aria-rowindex={item.index + 1}
                className={`grid items-center gap-3.5 px-1.5 whitespace-nowrap [&>span]:overflow-hidden [&>span]:text-ellipsis ${columnClass} ${rowClass?.(row) ?? ''}`}
                style={{
                  position: 'absolute',
                  top: 0,
                  left: 0,
                  right: 0,
                  height: rowHeight,
                  transform: `translateY(${item.start}px)`,
                }}
              >
                {cells(row)}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
