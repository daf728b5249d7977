import type { InletData } from '../show';
import { answerTopic, onlineTopic, publishedTopic, requestTopic } from './mqtt-topics';
import { inletWords } from './request';

/** A request as it is typed, and what it does. */
interface RequestRow {
  readonly typed: string;
  readonly does: string;
}

const words = Object.entries(inletWords);
const httpRows: readonly RequestRow[] = [
  ...words.flatMap(([, { path, does }]) => (path === undefined ? [] : [{ typed: path, does }])),
  { typed: '/wait/<tag>/<reading>?not=<value>', does: 'answers when the reading is something else' },
  { typed: '/openapi.json', does: 'answers with the description of this inlet (OpenAPI 3.1)' },
];

/** All requests of an inlet as they are typed there, for the desk and the documents. */
export function requestRows(data: Pick<InletData, 'speaks' | 'base'>): readonly RequestRow[] {
  switch (data.speaks) {
    case 'text':
      return words.map(([word, { takes, does }]) => ({ typed: `${word} ${takes}`, does }));
    case 'osc':
      return words.map(([word, { takes, does }]) => ({ typed: `/${word} ${takes}`, does }));
    case 'http':
      return httpRows;
    case 'mqtt':
      return topicRows(data);
    case 'sacn':
      return [
        {
          typed: 'dmx <channel> on',
          does: 'comes in when a channel is faded up over the half; off when it is faded down below it',
        },
        { typed: 'SHOW.dmx[<channel>].level', does: 'is the reading of the level, 0 to 255, while somebody sends' },
      ];
    case 'umd':
      return [
        { typed: 'umd <display> red', does: 'comes in when the left lamp changes: red, green, amber or off' },
        {
          typed: 'SHOW.display[<display>].left',
          does: 'is the reading of the left lamp; .right and .text are the others',
        },
      ];
  }
}

/** The topics of an inlet: those of the requests, and those on which the program itself speaks. */
const topicRows = (data: Pick<InletData, 'base'>): readonly RequestRow[] => [
  ...words.map(([word, { path, does }]) => ({
    typed: `${requestTopic(data)}${(path ?? `/${word}`).replace(/[?,].*$/, '')}`,
    does,
  })),
  { typed: requestTopic(data), does: 'carries out its message as a line of text: press Race/Cut' },
  {
    typed: publishedTopic(data, '/<tag>/<reading>'),
    does: 'is the value of a reading, retained; empty while it is not known',
  },
  { typed: publishedTopic(data, '/lamp/<page>/<label>'), does: 'is what a lamp shows, retained' },
  { typed: onlineTopic(data), does: 'is true while this program is connected, retained' },
  { typed: answerTopic(data), does: 'has the answers; of the own broker for each client, below its name' },
];

/** How requests are written and answered over each kind of inlet. */
export const speechWords: Readonly<
  Record<InletData['speaks'], { readonly title: string; readonly heading: string; readonly answers: string }>
> = {
  text: {
    title: 'Lines of text',
    heading: 'Line',
    answers:
      'A line ends with CR, LF or both. The answer is one line: ok, value, lamp, list or error, and what came of it.',
  },
  osc: {
    title: 'Open Sound Control',
    heading: 'Address and arguments',
    answers:
      'The answer goes back as /answer with one text, of a list with one for each item. A part of the address can stand for an argument: /call/3. What is followed comes at an address of its own: /SW1/input/3/name.',
  },
  http: {
    title: 'HTTP',
    heading: 'Path, with GET or POST',
    answers:
      'The answer is plain text, or JSON where it is accepted; its status says how it went. What is followed is sent as server-sent events.',
  },
  sacn: {
    title: 'Levels of sACN',
    heading: 'Message or reading',
    answers:
      'One universe of ANSI E1.31, by multicast or sent to this computer. Of several sources the highest priority counts. Nothing is answered.',
  },
  umd: {
    title: 'UMD tally',
    heading: 'Message or reading',
    answers: 'Versions 3.1 and 5.0 over UDP, told apart by their form. Nothing is answered.',
  },
  mqtt: {
    title: 'MQTT',
    heading: 'Topic and message',
    answers:
      'What a topic leaves out may be in the message. Answers go to the answer topic, or to the response topic that an MQTT 5 client names. Retained requests are ignored.',
  },
};
