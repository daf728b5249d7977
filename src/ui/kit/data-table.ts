/** A plain table: columns align, rows are ruled off, the head is quiet. Tables that are sorted and resized are TanStack's. */
export const tableClass =
  'w-full border-collapse text-left [&_td]:border-b [&_td]:border-rule [&_td]:py-1.5 [&_td]:pr-3 [&_td]:align-top [&_th]:border-b [&_th]:border-rule [&_th]:py-1.5 [&_th]:pr-3 [&_th]:align-top [&_th]:font-normal [&_thead_th]:text-[13px] [&_thead_th]:text-ink-soft';
