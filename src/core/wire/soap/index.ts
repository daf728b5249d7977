export { deviceTimeIn } from './device-time';
export { soapContentType, soapEnvelope } from './envelope';
export { securityToken } from './security-token';
