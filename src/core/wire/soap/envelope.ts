import { escapeXml } from '../xml';
import type { SecurityToken } from './security-token';

const soapNamespace = 'http://www.w3.org/2003/05/soap-envelope';
const security = 'http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss';
const passwordDigest = `${security}-username-token-profile-1.0#PasswordDigest`;
const base64Binary = `${security}-soap-message-security-1.0#Base64Binary`;

/**
 * A SOAP 1.2 envelope (part 1, section 5) round the content of its body. The prefixes that the body uses are declared at the envelope.
 */
export function soapEnvelope(
  body: string,
  namespaces: Readonly<Record<string, string>>,
  token: SecurityToken | undefined,
): string {
  const used = Object.entries(namespaces).filter(([prefix]) => new RegExp(`[<\\s]${prefix}:`).test(body));
  const declared = used.map(([prefix, name]) => ` xmlns:${prefix}="${escapeXml(name)}"`);
  const header = token ? `<s:Header>${securityHeader(token)}</s:Header>` : '';
  return `<?xml version="1.0" encoding="UTF-8"?>\n<s:Envelope xmlns:s="${soapNamespace}"${declared.join('')}>${header}<s:Body>${body}</s:Body></s:Envelope>`;
}

/** Web Services Security, UsernameToken Profile 1.1, section 3.1; the names are those of version 1.0, which 1.1 keeps. */
const securityHeader = ({ user, digest, nonce, created }: SecurityToken): string =>
  `<w:Security xmlns:w="${security}-wssecurity-secext-1.0.xsd" xmlns:u="${security}-wssecurity-utility-1.0.xsd" s:mustUnderstand="1"><w:UsernameToken><w:Username>${escapeXml(user)}</w:Username><w:Password Type="${passwordDigest}">${digest}</w:Password><w:Nonce EncodingType="${base64Binary}">${nonce}</w:Nonce><u:Created>${created}</u:Created></w:UsernameToken></w:Security>`;

/** The media type of SOAP 1.2 (RFC 3902), with the action where there is one. */
export const soapContentType = (action: string): string =>
  `application/soap+xml; charset=utf-8${action === '' ? '' : `; action="${action}"`}`;
