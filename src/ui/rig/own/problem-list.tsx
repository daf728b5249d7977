import type { Problem } from '../../../core/result';

/** What is wrong with something that was entered, with the place of each. */
export function ProblemList({ problems }: { readonly problems: readonly Problem[] }) {
  if (problems.length === 0) return null;
  return (
    <ul className="border-l-4 border-fault pl-2.5 text-[14px] [&_code]:font-bold" role="alert">
      {problems.map(({ path, message }, n) => (
        <li key={n}>
          {path && <code>{path}</code>} {message}
        </li>
      ))}
    </ul>
  );
}
