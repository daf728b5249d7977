import { X } from 'lucide-react';
import { gradeNames, gradeTitles, type Grades } from '../../core/session';

const words = { yes: 'yes', no: 'no', unknown: 'not known' } as const;

const looks = {
  yes: 'border-ink-soft bg-ink-soft',
  no: 'border-rule-strong bg-fault text-fault-ink',
  unknown: 'border-rule-strong hatch-crossed',
} as const;

/** The grades of a connection, one mark each: filled when reached, a cross when not, hatched when not known. */
export function GradeMarks({ grades }: { readonly grades: Grades }) {
  return (
    <ol className="inline-flex gap-0.75" aria-label="Grades of the connection">
      {gradeNames.map((name) => (
        <li key={name} className="relative" title={`${gradeTitles[name]}: ${words[grades[name]]}`}>
          <i className={`inline-block size-3.5 border text-center ${looks[grades[name]]}`} aria-hidden>
            {grades[name] === 'no' && <X size={12} strokeWidth={4} />}
          </i>
          <span className="sr-only">
            {gradeTitles[name]}
            {`: ${words[grades[name]]}`}
          </span>
        </li>
      ))}
    </ol>
  );
}
