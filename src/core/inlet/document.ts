import type { InletData } from '../show';
import { answerStatuses } from './answer';
import { inletWords } from './request';
import { requestRows, speechWords } from './requests-table';

const kinds: readonly InletData['speaks'][] = ['text', 'osc', 'http', 'mqtt', 'sacn', 'umd'];

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
const code = (text: string): string => `\`${text.replaceAll('|', '\\|')}\``;

/** The reference of all inlets in Markdown, made from what the program itself goes by. */
export function inletDocument(): string {
  const parts = kinds.map((speaks) => {
    const { title, heading, answers } = speechWords[speaks];
    const rows = requestRows({ speaks }).map(({ typed, does }) => `| ${code(typed)} | ${cell(does)} |`);
    return [`## ${title}`, '', answers, '', `| ${heading} | What it does |`, '| --- | --- |', ...rows].join('\n');
  });
  const statuses = [...answerStatuses].map(([status, codes]) => `| ${status} | ${codes.map(code).join(', ')} |`);
  return `# Inlets: what other programs can ask for

<!-- Made by npm run docs:inlets from src/core/inlet. -->

Names are found without regard to capitals, blanks and punctuation, and every record also answers to its id. A control is named by its page and its label, \`Race/Cut\`; a label that comes from a device is what it shows now. Parts in angle brackets are filled in, parts in square brackets may be left out. Anything that is not a request fires the watches that wait for it.

A line of text, as ABNF (RFC 5234):

\`\`\`abnf
line      = request (CR / LF / CRLF)
request   = word *( 1*SP argument )
word      = ${Object.keys(inletWords)
    .map((word) => `"${word}"`)
    .join(' / ')}
argument  = 1*( %x21-7E / UTF8-non-ascii )
answer    = ( "ok" / "value" / "stale" / "lamp" / "list" / "error" ) SP text CRLF
news      = "now" SP subject SP text CRLF
\`\`\`

${parts.join('\n\n')}

## Codes of errors

Over HTTP they are the status (RFC 9110, section 15), everywhere the word behind \`error\`.

| Status | Codes |
| --- | --- |
${statuses.join('\n')}
`;
}
