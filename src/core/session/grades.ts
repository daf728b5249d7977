import type { Link } from './link';

/** The grades of connection, in the order in which they are reached. */
export const gradeNames = ['computer', 'port', 'protocol', 'signedIn', 'reports'] as const;
export type GradeName = (typeof gradeNames)[number];
export type Grade = 'yes' | 'no' | 'unknown';
export type Grades = Readonly<Record<GradeName, Grade>>;

export const gradeTitles: Readonly<Record<GradeName, string>> = {
  computer: 'computer answers',
  port: 'port answers',
  protocol: 'protocol answers',
  signedIn: 'signed in',
  reports: 'reports come back',
};

/** What was seen over the present connection. */
export interface Evidence {
  /** A connection was made (TCP, WebSocket); a datagram socket that is open proves nothing. */
  readonly connected: boolean;
  /** Bytes came. */
  readonly heard: boolean;
  /** A frame came that the driver understands. */
  readonly understood: boolean;
  /** A reading came. */
  readonly reported: boolean;
}

export const noEvidence: Evidence = { connected: false, heard: false, understood: false, reported: false };

/** Which grades are reached, from the link and what was seen. Later grades need the earlier ones. */
export function gradesOf(link: Link, evidence: Evidence): Grades {
  const all = (grade: Grade): Grades => ({
    computer: grade,
    port: grade,
    protocol: grade,
    signedIn: grade,
    reports: grade,
  });
  const { word, cause } = link;
  if (word === 'off') return all('unknown');
  if (word === 'one-way') return { ...all('unknown'), computer: evidence.connected ? 'yes' : 'unknown' };
  if (word === 'down') {
    switch (cause) {
      case 'refused':
        return { ...all('no'), computer: 'yes' };
      case 'no-greeting':
      case 'wrong-greeting':
      case 'no-sync':
      case 'behind-gateway':
      case 'out-of-step':
      case 'certificate':
        return {
          computer: 'yes',
          port: 'yes',
          protocol: cause === 'no-sync' && evidence.understood ? 'yes' : 'no',
          signedIn: 'no',
          reports: 'no',
        };
      case 'silence':
      case 'closed':
      case 'reset':
      case 'not-reading':
      case 'other':
        return { ...all('no'), computer: 'unknown', port: 'unknown' };
      default:
        return all('no');
    }
  }
  const heard: Grade = evidence.heard || evidence.connected ? 'yes' : 'unknown';
  if (word === 'locked out' || word === 'occupied') {
    return { computer: 'yes', port: 'yes', protocol: 'yes', signedIn: 'no', reports: 'no' };
  }
  const up = word === 'up' || word === 'silent';
  return {
    computer: heard,
    port: heard,
    protocol: evidence.understood ? 'yes' : 'unknown',
    signedIn: up || word === 'syncing' ? (evidence.understood ? 'yes' : 'unknown') : 'unknown',
    reports: word === 'silent' ? 'no' : evidence.reported ? 'yes' : 'unknown',
  };
}
