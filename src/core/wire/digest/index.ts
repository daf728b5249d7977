export { basicHeader, digestHeader, readChallenge, type DigestChallenge } from './digest';
