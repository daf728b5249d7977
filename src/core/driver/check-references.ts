import { noPort } from './schema-link';
import { checkContract } from './check-contract';
import { checkNames } from './check-names';
import { isRepeatable } from './confirm';
import { keepSendProblem } from './keeps';
import { splitKey } from './reading-key';
import { namedIn } from './sentence';
import { checkValue } from './values';
import type { ReportProblem } from './message';
import type { DriverCommand, DriverDocument } from './schema';

/** Checks that everything a document refers to exists and that its times make sense. */
export function checkReferences(document: DriverDocument, whole: DriverDocument, report: ReportProblem): void {
  const { readings, commands } = document;
  const hasReading = (key: string, path: string) => {
    if (!(key in readings)) report(path, `There is no reading “${key}”.`);
  };
  for (const [key, reading] of Object.entries(readings)) {
    if (key.includes('[]') && !reading.index) report(`readings.${key}`, 'A family needs "index" with "from" and "to".');
    if (!key.includes('[]') && reading.index)
      report(`readings.${key}`, 'Only a family (with [] in its key) has "index".');
    if (typeof reading.level?.to === 'string') hasReading(reading.level.to, `readings.${key}.level.to`);
    if (reading.deadBand !== undefined && !['whole', 'decimal', 'time'].includes(reading.value.type))
      report(`readings.${key}.deadBand`, 'Only a number has a dead band.');
    const { names, from = 0, to } = reading.index ?? {};
    if (names && typeof to === 'number' && names.length !== to - from + 1)
      report(`readings.${key}.index.names`, `There are ${to - from + 1} members, but ${names.length} names.`);
    if (reading.value.type === 'payload') report(`readings.${key}.value`, 'A payload is for parameters only.');
    if (reading.computed !== undefined && document.replies.some(({ set }) => setsReading(set, key)))
      report(`readings.${key}.computed`, 'A reply sets this reading, so it cannot be computed.');
    if (reading.runs) hasReading(reading.runs.while, `readings.${key}.runs.while`);
  }
  checkNames(whole, report);
  for (const [id, command] of Object.entries(commands)) {
    const path = `commands.${id}`;
    for (const [name, param] of Object.entries(command.params)) {
      if (param.listFrom && !readings[param.listFrom]?.index) {
        report(`${path}.params.${name}.listFrom`, `There is no family of readings “${param.listFrom}”.`);
      }
      if (param.takes && !(param.listFrom && param.sends === 'value' && param.value.type === 'text'))
        report(`${path}.params.${name}.takes`, 'Only a text with "listFrom" and "sends": "value" has this.');
      if (param.fromReading) hasReading(param.fromReading, `${path}.params.${name}.fromReading`);
      if ([param.fromReading, param.step, param.computed].filter((each) => each !== undefined).length > 1)
        report(`${path}.params.${name}`, 'Only one of "fromReading", "step" and "computed" can give the value.');
      if (param.step) checkStep(document, command, name, `${path}.params.${name}.step`, report);
      if (param.default !== undefined) {
        const checked = checkValue(param.value, param.default);
        if (!checked.ok) report(`${path}.params.${name}.default`, `${param.title} ${checked.error}.`);
      }
    }
    if (command.stop) checkStop(commands, command, path, report);
    for (const name of namedIn(command.says ?? ''))
      if (!(name in command.params)) report(`${path}.says`, `There is no parameter “${name}”.`);
    const needed = command.worksWhile?.reading;
    if (needed !== undefined && !(needed in readings)) report(`${path}.worksWhile`, `There is no reading “${needed}”.`);
    command.showsNothing?.forEach(({ when, reading }, n) => {
      const at = `${path}.showsNothing.${n}`;
      for (const name of Object.keys(when))
        if (!(name in command.params)) report(at, `There is no parameter “${name}”.`);
      if (!(reading in whole.readings)) report(`${at}.reading`, `There is no reading “${reading}”.`);
    });
    checkConfirm(document, id, report);
    checkAgain(document, id, report);
  }
  for (const [id, { only }] of [...Object.entries(whole.commands), ...Object.entries(whole.readings)]) {
    for (const option of Object.keys(only ?? {})) {
      if (!(option in whole.options)) report(`${id}.only.${option}`, `There is no option “${option}”.`);
    }
  }
  checkContract(document, whole, report);
  checkTimes(document, report);
  checkTransport(document, report);
  for (const [name, { paging }] of Object.entries(document.questions)) {
    if (!paging) continue;
    hasReading(paging.count, `questions.${name}.paging.count`);
    if (document.answers === 'none') report(`questions.${name}.paging`, 'Paging needs answers: "answers" is "none".');
  }
  for (const key of ['model', 'firmware', 'serial', 'clock'] as const) {
    const reading = document.identity[key];
    if (reading) hasReading(reading, `identity.${key}`);
  }
  document.starters.forEach((starter, n) => {
    const { command: id } = starter;
    const command = id === undefined ? undefined : commands[id];
    if (id !== undefined && !command && id in whole.commands) return;
    if (id !== undefined && !command) report(`starters.${n}.command`, `There is no command “${id}”.`);
    if (id === undefined && !starter.label) report(`starters.${n}.label`, 'A starter without a command needs a label.');
    if (starter.lamp && starter.lamps) report(`starters.${n}.lamps`, 'Give one "lamp" or several "lamps".');
    for (const each of starter.label ?? [])
      if (typeof each !== 'string' && !(each.reading in whole.readings))
        report(`starters.${n}.label`, `There is no reading “${each.reading}”.`);
    for (const name of Object.keys(starter.params)) {
      if (command && !(name in command.params))
        report(`starters.${n}.params.${name}`, `There is no parameter “${name}”.`);
    }
    if (starter.each && !readings[starter.each]?.index && !(starter.each in whole.readings)) {
      report(`starters.${n}.each`, `There is no family of readings “${starter.each}”.`);
    }
    if (starter.held && command && !command.stop)
      report(`starters.${n}.held`, 'Only a command with "stop" can be held.');
  });
  checkLists(document, whole, report);
  checkDrives(document, report);
  checkTally(document, report);
  checkDisplays(document, report);
  checkDrawn(document, report);
  checkKeeps(document, whole, report);
  checkPresets(document, whole, report);
  if (document.sync.answered && document.answers === 'none') {
    report('sync.answered', 'This device does not answer ("answers": "none").');
  }
}

/** True where a reply sets a reading or a member of the family. */
const setsReading = (set: Readonly<Record<string, string>> | undefined, key: string): boolean =>
  Object.keys(set ?? {}).some((each) => each.replace(/\[[^\]]*\]/, '[]') === key);

function checkLists({ lists, commands, readings }: DriverDocument, whole: DriverDocument, report: ReportProblem): void {
  for (const [id, list] of Object.entries(lists)) {
    const families = [list.items, ...list.texts, ...(list.picture ? [list.picture] : [])];
    for (const family of families) {
      if (!readings[family]?.index && !(family in whole.readings))
        report(`lists.${id}`, `There is no family of readings “${family}”.`);
    }
    for (const mark of [list.current, list.next]) {
      const { family } = splitKey(mark?.reading ?? list.items);
      if (!(family in readings) && !(family in whole.readings))
        report(`lists.${id}`, `There is no reading “${family}”.`);
    }
    list.acts.forEach((act, n) => {
      const command = commands[act.command];
      if (!command && act.command in whole.commands) return;
      if (!command) return report(`lists.${id}.acts.${n}.command`, `There is no command “${act.command}”.`);
      for (const name of [...Object.keys(act.params), ...(act.ask ? [act.ask] : [])])
        if (!(name in command.params)) report(`lists.${id}.acts.${n}`, `There is no parameter “${name}”.`);
    });
  }
}

/** What goes one way or the other: two commands that are stopped alike. */
function checkAxis(
  drive: { readonly more: string; readonly less: string; readonly speed?: string | undefined },
  commands: DriverDocument['commands'],
  path: string,
  report: ReportProblem,
): void {
  for (const part of ['more', 'less'] as const) {
    const command = commands[drive[part]];
    if (!command) report(`${path}.${part}`, `There is no command “${drive[part]}”.`);
    else if (!command.stop) report(`${path}.${part}`, 'What is steered needs a command with "stop".');
    const speed = drive.speed === undefined ? undefined : command?.params[drive.speed]?.value.type;
    if (command && drive.speed !== undefined && speed !== 'whole' && speed !== 'decimal')
      report(`${path}.speed`, `“${drive[part]}” has no number “${drive.speed}”.`);
  }
  if (commands[drive.more]?.stop?.command !== commands[drive.less]?.stop?.command)
    report(path, 'Both commands must have the same stop command.');
}

/** The directions in which a stick can point. */
const directions = ['left', 'right', 'up', 'down', 'upLeft', 'upRight', 'downLeft', 'downRight'] as const;

function checkDrives({ drives, commands, readings }: DriverDocument, report: ReportProblem): void {
  for (const [id, drive] of Object.entries(drives)) {
    const path = `drives.${id}`;
    if ('more' in drive) {
      checkAxis(drive, commands, path, report);
      continue;
    }
    const command = commands[drive.command];
    if (!command) {
      report(`${path}.command`, `There is no command “${drive.command}”.`);
      continue;
    }
    if (!command.stop) report(`${path}.command`, 'What is steered needs a command with "stop".');
    const direction = command.params[drive.direction]?.value;
    const values = direction?.type === 'choice' ? direction.choices.map(({ value }) => value) : [];
    if (!directions.every((each) => values.includes(each)))
      report(`${path}.direction`, `Expected a choice of ${directions.join(', ')}.`);
    for (const axis of ['x', 'y'] as const) {
      const speed = command.params[drive[axis]]?.value;
      if (speed?.type !== 'whole' && speed?.type !== 'decimal')
        report(`${path}.${axis}`, 'Expected a parameter that is a number.');
    }
    const zoom = drive.zoom === undefined ? undefined : readings[drive.zoom]?.value.type;
    if (drive.zoom !== undefined && zoom !== 'whole' && zoom !== 'decimal')
      report(`${path}.zoom`, `There is no reading “${drive.zoom}” that is a number.`);
    if (drive.menu !== undefined && readings[drive.menu]?.value.type !== 'onOff')
      report(`${path}.menu`, `“${drive.menu}” is not an on/off reading of this driver.`);
  }
}

function checkTally({ tally, tallyLamp, readings, commands }: DriverDocument, report: ReportProblem): void {
  const parts = tally ? [...tally.outputs, ...tally.inside] : [];
  for (const { reading, while: only } of [
    ...parts,
    ...(tally?.dark ? [{ reading: tally.dark.reading, while: undefined }] : []),
  ]) {
    for (const key of [reading, ...(only ? [only.reading] : [])])
      if (!(key in readings)) report('tally', `There is no reading “${key}”.`);
    if (only && Boolean(readings[reading]?.index) !== Boolean(readings[only.reading]?.index))
      report('tally', `“${reading}” and “${only.reading}” have to be both families, or both single.`);
  }
  if (!tallyLamp) return;
  const command = commands[tallyLamp.command];
  if (!command) return report('tallyLamp.command', `There is no command “${tallyLamp.command}”.`);
  for (const name of [...Object.keys(tallyLamp.onAir), ...Object.keys(tallyLamp.off)])
    if (!(name in command.params)) report('tallyLamp', `There is no parameter “${name}”.`);
}

function checkDisplays({ displays, commands }: DriverDocument, report: ReportProblem): void {
  if (!displays) return;
  const command = commands[displays.command];
  if (!command) return report('displays.command', `There is no command “${displays.command}”.`);
  for (const part of ['number', 'name', 'lamp'] as const)
    if (!(displays[part] in command.params)) report(`displays.${part}`, `There is no parameter “${displays[part]}”.`);
}

function checkDrawn({ stills, layouts, options, readings }: DriverDocument, report: ReportProblem): void {
  for (const [name, { port, path }] of Object.entries(stills))
    for (const from of [port, path]) {
      if (typeof from !== 'object') continue;
      if ('reading' in from ? !(from.reading in readings) : !(from.option in options))
        report(
          `stills.${name}`,
          'reading' in from ? `There is no reading “${from.reading}”.` : `There is no option “${from.option}”.`,
        );
    }
  for (const [name, { title: _, placeFull: __, sizeFull: ___, ...families }] of Object.entries(layouts))
    for (const [part, family] of Object.entries(families))
      if (!readings[family]?.index) report(`layouts.${name}.${part}`, `There is no family “${family}”.`);
}

function checkKeeps(document: DriverDocument, whole: DriverDocument, report: ReportProblem): void {
  for (const [id, { sends, layout, still }] of Object.entries(document.keeps)) {
    sends.forEach((send, n) => {
      // What an option rules out for this device is no mistake.
      if (!(send.command in document.commands) && send.command in whole.commands) return;
      const problem = keepSendProblem(document, send);
      if (problem !== undefined) report(`keeps.${id}.sends.${n}`, problem);
      for (const name of Object.keys(send.resets ?? {}))
        if (!sends.slice(n + 1).some(({ command }) => command === name))
          report(`keeps.${id}.sends.${n}.resets`, `“${name}” has to come later in this group.`);
    });
    if (layout !== undefined && !(layout in document.layouts))
      report(`keeps.${id}.layout`, `There is no layout “${layout}”.`);
    if (still !== undefined && !(still in document.stills) && !(still in whole.stills))
      report(`keeps.${id}.still`, `There is no picture “${still}” in stills.`);
  }
}

function checkPresets(
  { presets, commands, keeps, stills }: DriverDocument,
  whole: DriverDocument,
  report: ReportProblem,
): void {
  if (!presets) return;
  const { param, store, recall, forget, keep, still } = presets;
  for (const [part, id] of Object.entries({ store, recall, forget })) {
    if (id === undefined || (!(id in commands) && id in whole.commands)) continue;
    const command = commands[id];
    if (!command) report(`presets.${part}`, `There is no command “${id}”.`);
    else if (command.params[param]?.value.type !== 'whole')
      report(`presets.${part}`, `“${id}” has no whole number “${param}”.`);
  }
  if (keep !== undefined && !(keep in keeps)) report('presets.keep', `There is no group “${keep}” in keeps.`);
  if (still !== undefined && !(still in stills)) report('presets.still', `There is no picture “${still}” in stills.`);
}

function checkStop(
  commands: DriverDocument['commands'],
  command: DriverCommand,
  path: string,
  report: ReportProblem,
): void {
  const { stop } = command;
  const target = stop && commands[stop.command];
  if (!stop) return;
  if (!target) return report(`${path}.stop.command`, `There is no command “${stop.command}”.`);
  for (const [name, param] of Object.entries(target.params)) {
    const given = name in stop.params || name in command.params || param.default !== undefined || param.optional;
    if (!given) report(`${path}.stop.params`, `“${target.title}” needs the parameter “${name}”.`);
  }
}

function checkTimes({ link, polls }: DriverDocument, report: ReportProblem): void {
  const { keepAlive, gapMs } = link;
  if (keepAlive && keepAlive.silentAfterMs <= keepAlive.everyMs) {
    report('link.keepAlive.silentAfterMs', 'Must be longer than "everyMs", or every pause would count as silence.');
  }
  if (keepAlive && keepAlive.giveUpAfterMs <= keepAlive.silentAfterMs) {
    report('link.keepAlive.giveUpAfterMs', 'Must be longer than "silentAfterMs".');
  }
  polls.forEach((poll, n) => {
    if (poll.everyMs < gapMs) {
      report(
        `polls.${n}.everyMs`,
        `Asked every ${poll.everyMs} ms, but the smallest gap between two messages is ${gapMs} ms.`,
      );
    }
  });
}

function checkConfirm(document: DriverDocument, id: string, report: ReportProblem): void {
  const command = document.commands[id];
  const confirm = command?.confirm;
  if (!command || !confirm) return;
  if (confirm.by === 'answer') {
    if (document.answers === 'none')
      report(`commands.${id}.confirm`, 'This device does not answer ("answers": "none").');
    else if (command.unanswered) report(`commands.${id}.confirm`, 'This command is never answered ("unanswered").');
    return;
  }
  for (const [n, question] of confirm.ask.entries()) {
    if (!(question in document.questions))
      report(`commands.${id}.confirm.ask.${n}`, `There is no question “${question}”.`);
  }
  confirm.all.forEach((condition, n) => {
    const path = `commands.${id}.confirm.all.${n}`;
    const reading = document.readings[condition.reading];
    if (!reading) report(`${path}.reading`, `There is no reading “${condition.reading}”.`);
    if (reading?.index && !condition.index) report(`${path}.index`, 'A family needs the parameter that is its index.');
    const wanted = [condition.equals, condition.oneOf, condition.changes].filter((each) => each !== undefined);
    if (wanted.length !== 1) report(path, 'Expected one of "equals", "oneOf" and "changes".');
    const { equals } = condition;
    const named = [condition.index, typeof equals === 'object' && 'param' in equals ? equals.param : undefined];
    for (const param of named) {
      if (param && !(param in command.params)) report(path, `There is no parameter “${param}”.`);
    }
    if (typeof equals === 'object' && 'before' in equals && !document.readings[equals.before]) {
      report(path, `There is no reading “${equals.before}”.`);
    }
  });
}

function checkAgain(document: DriverDocument, id: string, report: ReportProblem): void {
  const { commands, link, answers } = document;
  const command = commands[id];
  const path = `commands.${id}.again`;
  if (!command?.again) return;
  if (!link.again) return report(path, 'Set "link.again": how many times, and after how long.');
  if (!isRepeatable(command))
    report(path, 'Its effect depends on the state before it, so sending it twice does something different.');
  if ((answers === 'none' || command.unanswered) && command.confirm?.by !== 'readings')
    report(
      path,
      'The device does not answer it and no reading confirms it, so the program cannot tell that it was lost.',
    );
  if (answers === 'in-order' && (link.kind === 'tcp' || link.kind === 'serial'))
    report(
      path,
      'This link keeps the order: with answers in order the extra answer would be matched to the next command.',
    );
  if (answers === 'in-order' && link.kind === 'udp' && link.window !== 1)
    report(path, 'Where answers come in order, "link.window" must be 1, or answers would be mixed up.');
}

/** Framings that a transport cannot carry. */
function checkTransport({ link, framing, greeting }: DriverDocument, report: ReportProblem): void {
  const isHttp = framing.kind === 'http';
  if (isHttp !== (link.kind === 'http')) {
    report('framing.kind', 'The framing “http” goes with the link “http”, and only with that.');
  }
  if ((framing.kind === 'mqtt') !== (link.kind === 'mqtt')) {
    report('framing.kind', 'The framing “mqtt” goes with the link “mqtt”, and only with that.');
  }
  const isSerial = link.kind === 'serial';
  const isMidi = link.kind === 'midi';
  if (isMidi && framing.kind !== 'midi') report('framing.kind', 'The link “midi” carries the framing “midi” only.');
  if (framing.kind === 'midi' && !isMidi && !isSerial && link.kind !== 'tcp')
    report('link.kind', 'MIDI goes over “midi”, “serial” or “tcp”.');
  const isInternal = link.kind === 'internal';
  if (isInternal !== (link.service !== undefined))
    report('link.service', 'The link “internal” names a service of this program, and no other link does.');
  if (isInternal && framing.kind !== 'json-lines')
    report('framing.kind', 'A service of this program speaks “json-lines”.');
  if (!isSerial && !isMidi && !isInternal && link.port === noPort)
    report('link.port', 'Is missing: expected the port at which devices listen.');
  if (!isSerial && link.serial) report('link.serial', 'Only for the link “serial”.');
  if (isSerial && ['message', 'umd', 'modbus'].includes(framing.kind))
    report('framing.kind', `The framing “${framing.kind}” cannot be used on a serial line.`);
  if ((isSerial || isMidi || isInternal) && link.secure) report('link.secure', 'A port of this computer has no TLS.');
  if (framing.kind === 'umd' && !isSerial && link.kind !== 'udp')
    report('link.kind', 'UMD tally goes over “udp” here.');
  if (framing.kind === 'modbus' && !isSerial && link.kind !== 'tcp')
    report('link.kind', 'Modbus goes over “tcp” here.');
  if (framing.kind === 'message' && link.kind === 'tcp') {
    report(
      'framing.kind',
      'A TCP stream has no messages of its own: choose “lines”, “terminated”, “fixed” or “prefixed”.',
    );
  }
  if (framing.kind === 'visca' && framing.header && link.kind !== 'udp') {
    report('framing.header', 'The header belongs to datagrams (“udp”).');
  }
  if (framing.kind === 'prefixed' && framing.sends === 'length' && (framing.header > 0 || framing.check || framing.end))
    report(
      'framing.sends',
      'This adds only a bare length. Write a header, a checksum or an end in the messages themselves, with {length u16be|…}.',
    );
  if (link.auth !== 'none' && link.kind !== 'http' && link.kind !== 'websocket')
    report('link.auth', `The link “${link.kind}” has no sign-in of its own. Write it as a "greeting".`);
  if (link.auth === 'digest' && link.kind === 'websocket')
    report('link.auth', 'A WebSocket can sign in with “basic” only; “digest” goes with the link “http”.');
  if (link.events !== undefined && !isHttp) report('link.events', 'A stream of events goes with the link “http”.');
  for (const part of ['path', 'subprotocol'] as const)
    if (link[part] !== undefined && link.kind !== 'websocket') report(`link.${part}`, 'Only for the link “websocket”.');
  if (link.secure && link.kind === 'udp') report('link.secure', 'Datagrams cannot be sent over TLS here.');
  if (link.notifications !== 0 && link.kind !== 'tcp') report('link.notifications', 'Only for the link “tcp”.');
  if (link.perMessage && link.kind !== 'tcp') report('link.perMessage', 'Only for the link “tcp”.');
  if (link.perMessage && greeting.length > 0)
    report('link.perMessage', 'A greeting needs a connection that stays open; here each message has its own.');
  if (link.localPort !== undefined && link.kind !== 'udp') report('link.localPort', 'Only for the link “udp”.');
}

const steppable: readonly string[] = ['whole', 'decimal', 'time', 'choice', 'onOff'];

/** A step needs a reading to begin from and something that can go up and down; what it rests on comes before it. */
function checkStep(
  { readings }: DriverDocument,
  { params }: DriverCommand,
  name: string,
  path: string,
  report: ReportProblem,
): void {
  const param = params[name];
  if (!param?.step) return;
  const { from, index, by } = param.step;
  if (!(from in readings)) report(`${path}.from`, `There is no reading “${from}”.`);
  if (from.includes('[]') !== (index !== undefined))
    report(`${path}.index`, 'A family needs the parameter that says which member, and only a family has one.');
  if (!steppable.includes(param.value.type)) report(path, `A value of the type “${param.value.type}” has no steps.`);
  const names = Object.keys(params);
  const before = names.slice(0, names.indexOf(name));
  for (const needed of [index, typeof by === 'object' ? by.param : undefined])
    if (needed !== undefined && !before.includes(needed))
      report(path, `The step rests on “${needed}”, which must be a parameter before it.`);
}
