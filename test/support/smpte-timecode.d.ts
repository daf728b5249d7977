declare module 'smpte-timecode' {
  /** A timecode of so many frames, at a frame rate. */
  export default function Timecode(frames: number, rate: number, dropFrame: boolean): { toString(): string };
}
