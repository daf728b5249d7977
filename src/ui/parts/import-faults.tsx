import type { Problem } from '../../core/result';

/** Why a file cannot be read; nothing where it can. */
export const FileFaults = ({ problems }: { readonly problems: readonly Problem[] }) =>
  problems.length === 0 ? null : (
    <div role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
      <p>Nothing was imported: the file cannot be read.</p>
      <ul>
        {problems.slice(0, 5).map(({ path, message }) => (
          <li key={`${path} ${message}`}>
            {path && `${path}: `}
            {message}
          </li>
        ))}
      </ul>
    </div>
  );

const mostShown = 12;

interface BroughtProps {
  readonly broken: readonly { readonly where: string; readonly message: string }[];
}

/** What of a file would not work in this show; nothing where all of it would. */
export const BroughtFaults = ({ broken }: BroughtProps) =>
  broken.length === 0 ? null : (
    <section aria-label="Will not work">
      <h3 className="font-semibold">Will not work here until you fix it</h3>
      <ul className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
        {broken.slice(0, mostShown).map(({ where, message }) => (
          <li key={`${where} ${message}`}>
            {where}: {message}
          </li>
        ))}
        {broken.length > mostShown && <li>… and {broken.length - mostShown} more</li>}
      </ul>
    </section>
  );
