import type { ChannelMessage, SystemMessage } from './wire';

/** One message. Numbers of keys, controllers and programs are from 0, as on the wire; channels are from 1, as people count them. */
export type MidiMessage =
  | {
      readonly kind: Exclude<ChannelMessage, 'program' | 'pressure' | 'bend'>;
      readonly channel: number;
      readonly number: number;
      readonly value: number;
    }
  /** `value`: 0 to 127; of `bend` 0 to 16,383 with 8192 in the middle. */
  | { readonly kind: 'program' | 'pressure' | 'bend'; readonly channel: number; readonly value: number }
  /** `value`: of those with data, 0 to 127; of `songPosition` 0 to 16,383. */
  | { readonly kind: SystemMessage; readonly value: number }
  /** The bytes between F0 and F7, each below 80. */
  | { readonly kind: 'exclusive'; readonly data: Uint8Array };
