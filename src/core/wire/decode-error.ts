/** Why a frame could not be read, and where in it. */
export interface DecodeError {
  readonly code: 'short' | 'left-over' | 'bad-value' | 'too-deep' | 'overlong';
  /** Position of the byte at fault, from 0. */
  readonly offset: number;
  readonly message: string;
}
