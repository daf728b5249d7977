export { cleanAddress, type CleanAddress } from './clean-address';
export { partsOf, type TextPart } from './hidden-parts';
export {
  addressesIn,
  contains,
  familyOf,
  isBroadcastAddress,
  isLinkLocal,
  isLoopbackAddress,
  isNetworkAddress,
  isMulticast,
  isOneComputer,
  movedTo,
  parseSubnet,
  sharedBits,
  subnetOf,
  subnetText,
  type Subnet,
} from './subnet';
export {
  internalPlace,
  isInternalPlace,
  isLocalPort,
  isMidiPort,
  isSameMidiPort,
  isSerialPort,
  midiPlace,
  midiPortName,
  placeText,
} from './local-port';
