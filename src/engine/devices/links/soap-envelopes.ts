import { randomBytes } from 'node:crypto';
import {
  deviceTimeIn,
  securityToken,
  soapEnvelope,
  type Arrived,
  type HttpOutgoing,
  type Said,
} from '../../../core/wire';

interface SignIn {
  readonly user: string;
  readonly password: string;
}

const nonceBytes = 16;

/**
 * Puts the messages to one device into SOAP envelopes, each with a security token of its own. A token carries the time by the device's clock, so
 * the first message goes out without one: it asks what that time is, which everybody may.
 */
export class SoapEnvelopes {
  /** The device's clock minus ours; `undefined` until it has answered once. */
  private aheadMs: number | undefined;

  /** @param signIn `undefined` where messages carry no token */
  constructor(private readonly signIn: SignIn | undefined) {}

  /** The body of a request as it goes out. */
  sent({ body, soap }: HttpOutgoing): string | undefined {
    return soap && body !== undefined ? soapEnvelope(body, soap.namespaces, this.token()) : body;
  }

  /** The body of a request as the wire shows it: without the sign-in. */
  shown({ body, soap }: HttpOutgoing): string | undefined {
    return soap && body !== undefined ? soapEnvelope(body, soap.namespaces, undefined) : body;
  }

  /** Takes the time from an answer that says it. The difference is added to what the answer says, as JSON: `clockDifference` in seconds. */
  heard(arrived: Arrived): Arrived {
    this.aheadMs ??= 0;
    for (const said of arrived.says) {
      const time = said.kind === 'json' ? deviceTimeIn(said.value) : undefined;
      if (time === undefined) continue;
      this.aheadMs = Date.parse(time) - Date.now();
      // Less than a second is only how the device rounds.
      const seconds = Math.abs(this.aheadMs) < 1000 ? 0 : Math.round(this.aheadMs / 1000);
      const difference: Said = { kind: 'json', text: '', value: { clockDifference: seconds } };
      return { ...arrived, says: [...arrived.says, difference] };
    }
    return arrived;
  }

  private token(): ReturnType<typeof securityToken> | undefined {
    if (!this.signIn || this.aheadMs === undefined) return undefined;
    const { user, password } = this.signIn;
    if (user === '' && password === '') return undefined;
    const created = new Date(Date.now() + this.aheadMs).toISOString().replace(/\.\d+Z$/, 'Z');
    return securityToken(this.signIn, randomBytes(nonceBytes), created);
  }
}
