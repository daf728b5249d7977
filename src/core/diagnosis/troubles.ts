/**
 * Everything that a connection test can find wrong. Each has a name of its own, so that no two troubles look alike; the
 * words are for a person beside a rack. `docs/connection-test.md` lists how each of them comes about.
 */
export const troubles = {
  'no-address': {
    title: 'No address yet',
    means: 'Nobody has typed where this device is.',
    tryNext: 'Type its address, or find it on the network.',
  },
  'bad-address': {
    title: 'Not an address',
    means: 'The address field does not contain the address of one computer.',
    tryNext: 'Type the address that the device itself shows.',
  },
  'network-address': {
    title: 'Address of the network',
    means: 'The first address of a subnet names the network; no device can have it.',
    tryNext: 'Look the address up on the device; its last number is probably mistyped.',
  },
  'broadcast-address': {
    title: 'Address of everybody',
    means: 'The last address of a subnet means every computer on it; no device can have it.',
    tryNext: 'Look the address up on the device; its last number is probably mistyped.',
  },
  'used-twice': {
    title: 'Address and port used twice',
    means: 'Two devices in the rig have the same address and port; one of the entries is wrong.',
    tryNext: 'Look both addresses up on the devices and correct one.',
  },
  'held-here': {
    title: 'In use by the live connection',
    means:
      'What you typed is at the address and port to which the rig is connected now. Testing it further would cut that connection.',
    tryNext:
      'Save it when you are not on air, or interrupt the connection for the test. It is made again after the test.',
  },
  'name-unknown': {
    title: 'Name not found',
    means: 'Nobody on this network knows that host name.',
    tryNext: 'Check its spelling, or type the IP address instead.',
  },
  'no-network': {
    title: 'This computer is on no network',
    means: 'It has no address except the loopback address.',
    tryNext: 'Plug the network cable in, or join the Wi-Fi, and look whether this computer gets an address.',
  },
  'no-route': {
    title: 'No way to that network',
    means: 'The device is on a subnet that this computer is not on, and no gateway leads there.',
    tryNext:
      'Give this computer a second address on the device’s subnet, move the device, or put both into the same VLAN.',
  },
  'neighbour-subnet': {
    title: 'On a neighbour subnet',
    means: 'The device’s address is close to this computer’s own, but outside its subnet, and no gateway leads there.',
    tryNext:
      'Probably one of the two has a wrong mask or a mistyped number. Compare both addresses and masks, number by number.',
  },
  'gateway-outside': {
    title: 'Gateway outside this computer’s subnets',
    means: 'The route to the device uses a gateway outside all subnets of this computer.',
    tryNext: 'Correct the gateway, the address or the mask in this computer’s network settings.',
  },
  'router-silent': {
    title: 'The router does not answer',
    means: 'The device is on another subnet, and the router that leads there does not respond.',
    tryNext:
      'The router is off, its cable is out, or this computer’s gateway setting is wrong. Until the router answers, nothing beyond it can be reached.',
  },
  'nobody-there': {
    title: 'Nobody has this address',
    means: 'The address is on this computer’s own subnet, and no computer answers to it, not even at the lowest level.',
    tryNext:
      'The device is off, its cable is out, it sits in another VLAN, or it has another address. Look at the device, then find it on the network.',
  },
  'computer-silent': {
    title: 'Nothing comes back',
    means:
      'The device is on another subnet, behind a gateway, and nothing comes back from it: no ping, no open and no refused port.',
    tryNext:
      'The device is off, the address is wrong, the gateway does not lead there, or a firewall drops everything. Ask for a port in the device’s own VLAN and test again.',
  },
  'port-refused': {
    title: 'Nothing listens on this port',
    means: 'The computer is there, but this port is closed: the service is switched off, or it uses another port.',
    tryNext: 'Switch the service on in the device’s menu, or take the port that it shows there.',
  },
  'port-silent': {
    title: 'The port swallows everything',
    means: 'The computer is there, but this port neither opens nor refuses: something filters it.',
    tryNext:
      'A firewall on the device or on the way drops it, or the address belongs to another computer. Allow the port, or correct the address.',
  },
  'gateway-fails': {
    title: 'Gateway not reachable',
    means:
      'The device is reached through a gateway, and the gateway cannot be reached. This says nothing about the device itself.',
    tryNext: 'Test the gateway first.',
  },
  'behind-gateway': {
    title: 'Silent behind its gateway',
    means: 'The gateway takes the bytes, but nothing comes back from the device behind it.',
    tryNext:
      'Is the device on, is its cable in the gateway’s port, and do speed and address of the serial line agree on both ends?',
  },
  'other-protocol': {
    title: 'Something else answers',
    means: 'A service is there, but it speaks another protocol than this driver.',
    tryNext:
      'The port or the address is another service’s, or the driver is the wrong one. Compare them with the device.',
  },
  'other-setting': {
    title: 'Answers as another driver',
    means:
      'The device answers another driver’s protocol: one of its protocol settings differs, or it is another kind of device.',
    tryNext: 'Use the driver that answered, or change the setting at the device.',
  },
  'wrong-model': {
    title: 'Another model',
    means: 'It speaks the driver’s protocol, but reports a model that the driver is not for.',
    tryNext: 'Check that this is the right device; take the driver that is for this model, or go on with care.',
  },
  certificate: {
    title: 'Certificate not trusted',
    means: 'The device shows a certificate that this computer does not accept for it.',
    tryNext:
      'Renew it at the device, install its authority on this computer, or turn off “Check the certificate” in the device’s settings.',
  },
  'question-refused': {
    title: 'Question refused',
    means: 'The device answers, but refuses the question about its state.',
    tryNext: 'Compare the question or path with the manual. It may belong to another version, or need a sign-in.',
  },
  'no-reply-fits': {
    title: 'Unknown message',
    means: 'The device sends complete messages, but none of them matches a reply of the driver.',
    tryNext:
      'Compare the message with the manual: the driver may be for another model or version, or a reply in it may have a mistake. See the wire.',
  },
  'serial-missing': {
    title: 'No such serial port',
    means: 'This computer has no serial port with this name.',
    tryNext: 'Plug in the adapter and choose its port from the list.',
  },
  'serial-taken': {
    title: 'Serial port in use',
    means: 'A serial port can be open in only one program, and another program has it open.',
    tryNext: 'Close the other program, or change the device in this rig that uses the same port.',
  },
  'serial-denied': {
    title: 'Serial port not allowed',
    means: 'The account that runs this program may not open serial ports.',
    tryNext: 'On Linux, add the account to the group “dialout” and sign in again.',
  },
  'serial-silent': {
    title: 'No data on the serial line',
    means: 'The serial port is open, but nothing comes back.',
    tryNext:
      'Is the device on, and is the cable the right one (crossed or straight)? Do speed, format and flow control agree at both ends?',
  },
  'midi-missing': {
    title: 'No such MIDI port',
    means: 'This computer has no MIDI port with this name.',
    tryNext: 'Switch the device on, plug it in, and choose its port from the list.',
  },
  'midi-none': {
    title: 'No MIDI on this computer',
    means: 'The operating system does not give this program access to MIDI.',
    tryNext: 'On Linux, load the module snd-seq and install libasound2. In a container, pass /dev/snd on.',
  },
  garbage: {
    title: 'Answers that mean nothing',
    means: 'Bytes come back, but in no protocol that is known here.',
    tryNext:
      'Probably speed or parity of a serial line, encryption that is switched on, or a faulty device. Look at the wire.',
  },
  'hangs-up': {
    title: 'It hangs up at once',
    means: 'The port opens, and the device ends the connection before it has said anything.',
    tryNext:
      'It may take only one controller and have one, or allow only certain addresses. Close other programs that use it, and see its list of allowed addresses.',
  },
  mute: {
    title: 'Open, but says nothing',
    means: 'The connection is taken, and nothing at all comes back.',
    tryNext:
      'The device hangs, is still starting, or waits for another kind of connection. Restart it, and check the port.',
  },
  occupied: {
    title: 'Another controller has it',
    means: 'The device takes only one controller at a time, and has one.',
    tryNext: 'Close the other program, or end its session in the device’s menu.',
  },
  'wrong-password': {
    title: 'Sign-in not accepted',
    means: 'The device is the right one and answers, but does not accept this name and password.',
    tryNext: 'Type both again; look whether capitals matter, and whether the device was reset to its first password.',
  },
  'no-password': {
    title: 'No password given',
    means: 'The device wants a name and a password, and the rig has none for it.',
    tryNext: 'Type them in the device’s entry.',
  },
  'no-state': {
    title: 'State not reported',
    means: 'The device greets and takes the sign-in, but does not report its state.',
    tryNext: 'Its firmware may be older or newer than the driver knows. Compare the versions.',
  },
  'option-differs': {
    title: 'Settings differ from the device',
    means: 'The device reports a setting that differs from its entry here.',
    tryNext: 'Use the device’s setting, unless this is the wrong device.',
  },
  'firmware-unknown': {
    title: 'Firmware that the driver does not know',
    means: 'The device works with a version that this driver was not tried with.',
    tryNext: 'Most will work. Try the commands that the show needs before the show.',
  },
  'clock-differs': {
    title: 'Clock differs',
    means: 'The device and this computer show different times.',
    tryNext:
      'Set both by the same time server. Until then their recordings and logs do not match, and other programs may not be able to sign in.',
  },
  slow: {
    title: 'Slow answers',
    means: 'The device answers, but takes longer than a person at a panel would accept.',
    tryNext: 'Look for a busy device, a Wi-Fi on the way, or a queue in a switch. A cable helps more often than not.',
  },
  lossy: {
    title: 'Answers get lost',
    means: 'Some questions were never answered.',
    tryNext: 'A bad cable, a Wi-Fi, or an overloaded port on the way. Change the cable first.',
  },
  'helper-missing': {
    title: 'A helper program is missing',
    means: 'The device answers, but a program that must run beside it does not.',
    tryNext: 'Start it on the device’s computer.',
  },
  'switched-off': {
    title: 'Switched off in this show',
    means: 'The rig does not call this device.',
    tryNext: 'Switch it on in its entry.',
  },
  'driver-missing': {
    title: 'Driver not installed',
    means: 'The show names a driver that is not installed here, or that has a mistake.',
    tryNext: 'Install it under Drivers, or choose another one.',
  },
  'local-port-taken': {
    title: 'Reply port in use on this computer',
    means: 'The replies would come to a port that another program on this computer already uses.',
    tryNext: 'Close that program, or choose another reply port on both ends.',
  },
} as const;

export type Trouble = keyof typeof troubles;
