import type { Result } from '../result';
import type { InletData } from '../show';
import { requestOfTopicParts, type InletError, type InletRequest } from './request';

type Place = Pick<InletData, 'base' | 'publishes'>;

/** What the topics of an inlet begin with, where nothing else is set. */
export const usualBase = 'sorrelfinch';
/** What an inlet publishes, where nothing else is set. */
export const usualPublished: readonly string[] = ['lamp/#'];

const baseOf = ({ base }: Place): string => base ?? usualBase;

/** Requests are published here: `sorrelfinch/do/press/Race/Cut`, or a line of text to `sorrelfinch/do`. */
export const requestTopic = (place: Place): string => `${baseOf(place)}/do`;
/** Where answers go that the asker has named no topic for. */
export const answerTopic = (place: Place, client?: string): string =>
  [baseOf(place), 'answer', ...(client === undefined ? [] : [topicPart(client)])].join('/');
/** `true` while the program is there, `false` as its last will. */
export const onlineTopic = (place: Place): string => `${baseOf(place)}/online`;

/** Where something that is published has its value. @param address as for Open Sound Control: `/SW1/input/3/name` */
export const publishedTopic = (place: Place, address: string): string =>
  `${baseOf(place)}/is/${address.split('/').filter(Boolean).map(topicPart).join('/')}`;

/** True where senders may not publish: there the program itself speaks. */
export const isOwnTopic = (place: Place, topic: string): boolean =>
  topic === baseOf(place) || (topic.startsWith(`${baseOf(place)}/`) && !isRequestTopic(place, topic));

const isRequestTopic = (place: Place, topic: string): boolean =>
  topic === requestTopic(place) || topic.startsWith(`${requestTopic(place)}/`);

/** What a message asks for. `undefined` where its topic is somebody else's, which only watches may wait for. */
export function requestOfTopic(
  place: Place,
  topic: string,
  payload: string,
): Result<InletRequest, InletError> | undefined {
  if (!isRequestTopic(place, topic)) return undefined;
  return requestOfTopicParts(topic.slice(requestTopic(place).length).split('/').filter(Boolean), payload);
}

/** What watches wait for: the topic with its payload behind it. */
export const topicText = (topic: string, payload: string): string => `${topic} ${payload}`.trim();

/** A name as one level of a topic: no wildcards, no levels of its own (MQTT 5.0, 4.7.1). */
export const topicPart = (name: string): string => name.trim().replaceAll(/[+#/\0]+/g, '_') || '_';

/** True where a topic filter stands for this topic (MQTT 3.1.1 and 5.0, 4.7.1 and 4.7.2). */
export function fitsFilter(filter: string, topic: string): boolean {
  const wanted = filter.split('/');
  const levels = topic.split('/');
  // Topics that begin with $ are not meant by a wildcard in the first place.
  if (topic.startsWith('$') && (wanted[0] === '+' || wanted[0] === '#')) return false;
  for (const [n, level] of wanted.entries()) {
    if (level === '#') return true;
    if (n >= levels.length || (level !== '+' && level !== levels[n])) return false;
  }
  return wanted.length === levels.length;
}
