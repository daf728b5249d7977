import audioMixer from './audio-mixer.json';
import cameraOnvif from './camera-onvif.json';
import { clockMachine, ownTimers } from './clock';
import { composer } from './composer';
import genericBytesTcp from './generic-bytes-tcp.json';
import genericBytesUdp from './generic-bytes-udp.json';
import genericHttp from './generic-http.json';
import genericHttpDigest from './generic-http-digest.json';
import genericJsonTcp from './generic-json-tcp.json';
import genericJsonrpcTcp from './generic-jsonrpc-tcp.json';
import genericJsonrpcWebsocket from './generic-jsonrpc-websocket.json';
import genericModbus from './generic-modbus.json';
import genericMqtt from './generic-mqtt.json';
import genericOsc from './generic-osc.json';
import genericOscTcp from './generic-osc-tcp.json';
import genericPairs from './generic-pairs.json';
import genericBytesSerial from './generic-bytes-serial.json';
import genericTextSerial from './generic-text-serial.json';
import genericTextTcp from './generic-text-tcp.json';
import genericTextUdp from './generic-text-udp.json';
import genericWebsocket from './generic-websocket.json';
import { midiDrivers } from './midi';
import lightsSacn from './lights-sacn.json';
import multiviewer from './multiviewer.json';
import multiviewerV31 from './multiviewer-v31.json';
import { relayBox } from './relays';
import relayGateway from './relay-gateway.json';
import replayDeck from './replay-deck.json';
import resultsBoard from './results-board.json';
import screenPjlink from './screen-pjlink.json';
import { slides } from './slides';
import streamingEncoder from './streaming-encoder.json';
import titleMachine from './title-machine.json';
import wakeOnLan from './wake-on-lan.json';
import { viewer } from './viewer';
import { viscaDrivers } from './visca';
import visionSwitcher from './vision-switcher.json';

/** The driver documents that ship. They are the same kind of data as any other and are checked when they are loaded. */
export const shippedDrivers: readonly unknown[] = [
  visionSwitcher,
  ...viscaDrivers,
  cameraOnvif,
  streamingEncoder,
  replayDeck,
  audioMixer,
  titleMachine,
  relayGateway,
  resultsBoard,
  screenPjlink,
  lightsSacn,
  wakeOnLan,
  composer,
  slides,
  viewer,
  relayBox,
  clockMachine,
  ownTimers,
  multiviewer,
  multiviewerV31,
  genericBytesSerial,
  genericTextSerial,
  genericBytesTcp,
  genericBytesUdp,
  genericHttp,
  genericHttpDigest,
  genericJsonTcp,
  genericJsonrpcTcp,
  genericJsonrpcWebsocket,
  ...midiDrivers,
  genericModbus,
  genericMqtt,
  genericOsc,
  genericOscTcp,
  genericPairs,
  genericTextTcp,
  genericTextUdp,
  genericWebsocket,
];
