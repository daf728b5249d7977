/** A part of a form, ruled off from the one before; also for one that folds. */
export const formPartClass =
  'flex flex-col gap-2.25 border-t border-rule pt-2.5 [&::details-content]:flex [&::details-content]:flex-col [&::details-content]:gap-2.25 [&_summary]:min-h-7 [&_summary]:cursor-pointer [&>summary]:font-semibold';
