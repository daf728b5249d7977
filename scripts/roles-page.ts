import { contractOf, deviceRoles, type ContractKind } from '../src/core/driver';

/** The contracts of all roles as a page in Markdown. */
export function rolesPage(): string {
  const parts = deviceRoles.flatMap((role) => {
    const { commands = {}, readings = {}, drives = [], stills = [] } = contractOf(role) ?? {};
    if (Object.keys(commands).length === 0) return [];
    const rows = Object.entries(commands).map(([name, params]) => `| \`${name}\` | ${paramsText(params)} |`);
    const read = Object.entries(readings).map(([name, kind]) => `| \`${name}\` | ${kindText(kind)} |`);
    return [
      `## ${role}`,
      `| command | parameters |\n| --- | --- |\n${rows.join('\n')}`,
      ...(read.length > 0 ? [`| reading | what it is |\n| --- | --- |\n${read.join('\n')}`] : []),
      ...[...drives.map((name) => `Drive: \`${name}\`.`), ...stills.map((name) => `Still: \`${name}\`.`)],
    ];
  });
  const open = deviceRoles.filter((role) => Object.keys(contractOf(role)?.commands ?? {}).length === 0);
  return [
    '# The contracts of the roles',
    'What drivers of one role call the same, so that a page that was made for one device drives another one. How a driver document follows it: [`contract`](drivers.md#contract). This page is written by `npm run docs:schema`.',
    'Pan and tilt are in degrees, zoom and focus in per cent of their way, levels of sound in dB, speeds of playback in per cent of the usual speed. Of a _share_ only the place between the least and the greatest value is the same at every device.',
    ...parts,
    `Without common names so far: ${open.join(', ')}.`,
  ].join('\n\n');
}

const paramsText = (params: Readonly<Record<string, ContractKind>>): string =>
  Object.entries(params)
    .map(([name, kind]) => `\`${name}\`: ${kindText(kind)}`)
    .join('; ');

function kindText(kind: ContractKind): string {
  if (typeof kind !== 'string') return `one of ${kind.map((value) => `\`${value}\``).join(' ')}`;
  return {
    number: 'a number',
    degrees: 'degrees',
    percent: 'per cent',
    share: 'a share',
    onOff: 'on or off',
    text: 'a text',
    time: 'a time',
  }[kind];
}
