export { basicHeader, digestHeader, readChallenge, type DigestChallenge, type DigestRequest } from './digest';
