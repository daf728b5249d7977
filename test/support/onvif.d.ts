/** The package has no types. */
declare module 'onvif' {
  type Done<Answer = unknown> = (error: Error | null, answer: Answer) => void;

  export class Cam {
    readonly deviceInformation?: Readonly<Record<string, unknown>>;
    constructor(
      options: {
        readonly hostname: string;
        readonly port: number;
        readonly username: string;
        readonly password: string;
        readonly timeout: number;
      },
      done: (error: Error | null) => void,
    );
    getPresets(options: object, done: Done<Readonly<Record<string, unknown>>>): void;
    getStatus(options: object, done: Done<{ readonly position: { readonly x: number; readonly y: number } }>): void;
    continuousMove(options: object, done: Done): void;
    stop(options: object, done: Done): void;
    getImagingSettings(done: Done<{ readonly brightness: number }>): void;
  }
}
