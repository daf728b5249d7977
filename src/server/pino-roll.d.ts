declare module 'pino-roll' {
  import type { SonicBoom } from 'pino';

  interface Options {
    readonly file: string;
    readonly extension?: string;
    /** Such as `5m`. */
    readonly size?: string;
    /** How many older files are kept. */
    readonly limit?: { readonly count: number };
    readonly mode?: number;
  }

  export default function build(options: Options): Promise<InstanceType<typeof SonicBoom>>;
}
