/** How the items of a list are laid out: rows, or large pictures side by side. */
export const listClass =
  'list-items flex-1 min-h-0 overflow-auto touch-pan-y text-left data-[form=large]:grid data-[form=large]:auto-rows-max data-[form=large]:grid-cols-[repeat(auto-fill,minmax(116px,1fr))] data-[form=large]:content-start data-[form=large]:gap-1 data-[form=large]:p-1';

/** One item of a list. */
export const listRowClass =
  'flex items-center gap-2 w-full min-h-11 py-0.5 px-2 text-left border-b border-rule aria-selected:shadow-[inset_4px_0_0_var(--ink)] aria-selected:bg-raised [&>span]:flex-1 [&>span]:min-w-0 [&>span]:flex [&>span]:flex-wrap [&>span]:gap-x-2.5 in-data-[form=large]:relative in-data-[form=large]:flex-col in-data-[form=large]:items-stretch in-data-[form=large]:border';

/** What can be done with the chosen item. */
export const listActsClass =
  'list-acts flex flex-none flex-wrap border-t border-rule-strong [&>*]:flex-1 [&>*]:min-h-11 [&>*]:min-w-14 [&>*]:px-1.5 [&>*]:font-semibold [&>*]:border-r [&>*]:border-rule [&_button:disabled]:opacity-45 [&_button[data-filling]]:bg-rule-strong';
