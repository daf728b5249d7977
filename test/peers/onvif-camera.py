"""A camera with pan, tilt and zoom that speaks ONVIF: the other end of our driver, written from the specifications with nothing of this
program in it. Services: device (Core), media (version 1), media2 (version 2), PTZ, imaging. Sign-in: the security token (UsernameToken
Profile 1.1, with time and nonce checked) or HTTP Digest (RFC 7616). Prints its port, then a line for each change that it was asked for.

Takes one JSON object: {"signIn": "token" | "digest" | "either", "clock": seconds ahead, "profileT": bool,
"slow": seconds that a continuous move takes to begin}
"""
import base64, calendar, hashlib, json, math, os, re, sys, threading, time
import xml.etree.ElementTree as tree
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

want = json.loads(sys.argv[1]) if len(sys.argv) > 1 else {}
sign_in, ahead, profile_t = want.get('signIn', 'either'), want.get('clock', 0), want.get('profileT', False)
user, password, slow = 'operator', 'low "tide" & <reeds>', want.get('slow', 0)

SOAP = 'http://www.w3.org/2003/05/soap-envelope'
WSSE = 'http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd'
WSU = 'http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd'
TT = 'http://www.onvif.org/ver10/schema'
DEVICE, MEDIA = 'http://www.onvif.org/ver10/device/wsdl', 'http://www.onvif.org/ver10/media/wsdl'
MEDIA2 = 'http://www.onvif.org/ver20/media/wsdl'
PTZ, IMAGING = 'http://www.onvif.org/ver20/ptz/wsdl', 'http://www.onvif.org/ver20/imaging/wsdl'
# The paths are the camera's own choice, but for that of the device service (Core, “Device service”).
paths = {DEVICE: '/onvif/device_service', MEDIA: '/svc/one', MEDIA2: '/svc/two?v=2', PTZ: '/svc/head', IMAGING: '/svc/look'}

lock = threading.Lock()
axes = {'pan': 0.1, 'tilt': -0.2, 'zoom': 0.0}
speeds, until = {'pan': 0.0, 'tilt': 0.0, 'zoom': 0.0}, {'head': 0.0, 'zoom': 0.0}
goal, home = {}, {'pan': 0.0, 'tilt': 0.0, 'zoom': 0.0}
presets = [['tok7', 'Finish & line', {'pan': 0.5, 'tilt': 0.25, 'zoom': 0.75}], ['tok12', 'Pontoon', {'pan': -0.5, 'tilt': 0.0, 'zoom': 0.1}]]
looks = {'Brightness': 50.0, 'ColorSaturation': 48.0, 'Contrast': 52.0, 'Sharpness': 10.0, 'IrCutFilter': 'AUTO',
         'BacklightCompensation/Mode': 'OFF', 'Exposure/Mode': 'AUTO', 'Exposure/Iris': 0.0, 'Exposure/Gain': 6.0,
         'Exposure/ExposureTime': 20000.0, 'Focus/AutoFocusMode': 'AUTO', 'WideDynamicRange/Mode': 'OFF',
         'WhiteBalance/Mode': 'AUTO', 'WhiteBalance/CrGain': 40.0, 'WhiteBalance/CbGain': 60.0}
focus, focus_speed = 0.4, 0.0
nonces, used_digests, asked = set(), {}, []

def say(*words):
    asked.append(words[0])
    sys.stdout.write(' '.join(str(each) for each in words) + '\n')
    sys.stdout.flush()

def clock():
    return time.time() + ahead

def run():
    """Moves the head a hundred times a second: the whole way takes two seconds at full speed."""
    global focus
    while True:
        time.sleep(0.01)
        with lock:
            now = time.monotonic()
            for axis in axes:
                part = 'zoom' if axis == 'zoom' else 'head'
                if speeds[axis] and now > until[part]:
                    speeds[axis] = 0.0
                    print('ended by itself', axis, flush=True)
                low = 0.0 if axis == 'zoom' else -1.0
                if axis in goal:
                    way = goal[axis] - axes[axis]
                    axes[axis] = goal[axis] if abs(way) < 0.02 else axes[axis] + math.copysign(0.02, way)
                    if axes[axis] == goal[axis]: del goal[axis]
                else:
                    axes[axis] = min(1.0, max(low, axes[axis] + speeds[axis] * 0.01))
            focus = min(1.0, max(0.0, focus + focus_speed * 0.01))

class Fault(Exception):
    def __init__(self, *codes, text='', status=400):
        self.codes, self.text, self.status = codes, text, status

def local(element):
    return element.tag.split('}')[-1]

def find(element, *names):
    for name in names:
        element = next((each for each in element if local(each) == name), None) if element is not None else None
    return element

def text(element, *names):
    found = find(element, *names)
    return None if found is None else (found.text or '').strip()

def check_token(envelope):
    """UsernameToken Profile 1.1, 3.1: the digest is of nonce, time and password; what is old or was seen before is turned away."""
    token = envelope.find(f'{{{SOAP}}}Header/{{{WSSE}}}Security/{{{WSSE}}}UsernameToken')
    if token is None: return False
    nonce, created = token.findtext(f'{{{WSSE}}}Nonce'), token.findtext(f'{{{WSU}}}Created')
    kind = token.find(f'{{{WSSE}}}Password').get('Type')
    assert kind.endswith('username-token-profile-1.0#PasswordDigest'), kind
    raw = base64.b64decode(nonce)
    digest = base64.b64encode(hashlib.sha1(raw + created.encode() + password.encode()).digest()).decode()
    at = calendar.timegm(time.strptime(re.sub(r'\.\d+Z$', 'Z', created), '%Y-%m-%dT%H:%M:%SZ'))
    good = token.findtext(f'{{{WSSE}}}Username') == user and token.findtext(f'{{{WSSE}}}Password') == digest
    good = good and abs(at - clock()) < 5 and raw not in nonces
    nonces.add(raw)
    return good

def check_digest(header, method, uri):
    """RFC 7616, 3.4.1, with MD5 and qop=auth; the count of a nonce only goes up."""
    if not header or not header.startswith('Digest '): return False
    field = {name: quoted or plain for name, quoted, plain in re.findall(r'(\w+)=(?:"((?:[^"\\]|\\.)*)"|([^\s,]+))', header)}
    md5 = lambda words: hashlib.md5(words.encode()).hexdigest()
    base = md5(f'{user}:reach:{password}')
    answer = md5(f"{base}:n0nce:{field['nc']}:{field['cnonce']}:auth:{md5(f'{method}:{uri}')}")
    fresh = int(field['nc'], 16) > used_digests.get(field['cnonce'], 0)
    used_digests[field['cnonce']] = int(field['nc'], 16)
    return field['username'] == user and field['response'] == answer and field['uri'] == uri and fresh

def vector(element, *names):
    found = find(element, *names)
    return {} if found is None else {key: float(value) for key, value in found.attrib.items() if key in 'xy'}

def part(element, name):
    """The axes that a vector names, by our names."""
    found = {}
    head, zoom = vector(element, name, 'PanTilt'), vector(element, name, 'Zoom')
    if head: found.update(pan=head['x'], tilt=head['y'])
    if zoom: found.update(zoom=zoom['x'])
    for axis, value in found.items():
        if abs(value) > 1: raise Fault('Sender', 'InvalidArgVal', 'InvalidPosition', text='Out of bounds')
    return found

def seconds(duration):
    return float(re.fullmatch(r'PT([\d.]+)S', duration).group(1))

def place(name, at):
    return f'<t:{name}><t:PanTilt x="{at["pan"]:.4f}" y="{at["tilt"]:.4f}"/><t:Zoom x="{at["zoom"]:.4f}"/></t:{name}>'

def escaped(words):
    return words.replace('&', '&amp;').replace('<', '&lt;')

def preset_of(body):
    token = text(body, 'PresetToken')
    found = next((each for each in presets if each[0] == token), None)
    if not found: raise Fault('Sender', 'InvalidArgVal', 'NoToken', text='The requested preset token does not exist.')
    return found

def answer(namespace, body, host):
    """What a message is answered with: the content of the body, in the namespace of its service under the prefix `a`."""
    global focus_speed
    name = local(body)
    url = lambda which: f'http://{host}{paths[which]}'
    known = [DEVICE, MEDIA2, PTZ, IMAGING] if profile_t else [DEVICE, MEDIA, MEDIA2, PTZ, IMAGING]
    if namespace not in known: raise Fault('Sender', 'ActionNotSupported', text='No such service')
    if namespace == DEVICE:
        if name == 'GetSystemDateAndTime':
            now = time.gmtime(clock())
            return f'<a:SystemDateAndTime><t:DateTimeType>NTP</t:DateTimeType><t:DaylightSavings>false</t:DaylightSavings><t:UTCDateTime><t:Time><t:Hour>{now.tm_hour}</t:Hour><t:Minute>{now.tm_min}</t:Minute><t:Second>{now.tm_sec}</t:Second></t:Time><t:Date><t:Year>{now.tm_year}</t:Year><t:Month>{now.tm_mon}</t:Month><t:Day>{now.tm_mday}</t:Day></t:Date></t:UTCDateTime></a:SystemDateAndTime>'
        if name == 'GetDeviceInformation':
            return '<a:Manufacturer>Marsh Optics</a:Manufacturer><a:Model>Heron 3</a:Model><a:FirmwareVersion>2.1.7</a:FirmwareVersion><a:SerialNumber>HX-0042</a:SerialNumber><a:HardwareId>1</a:HardwareId>'
        if name == 'GetCapabilities':
            if profile_t: raise Fault('Receiver', 'ActionNotSupported', 'NoSuchService', text='Deprecated', status=500)
            return f'<a:Capabilities><t:Device><t:XAddr>{url(DEVICE)}</t:XAddr></t:Device><t:Imaging><t:XAddr>{url(IMAGING)}</t:XAddr></t:Imaging><t:Media><t:XAddr>{url(MEDIA)}</t:XAddr></t:Media><t:PTZ><t:XAddr>{url(PTZ)}</t:XAddr></t:PTZ></a:Capabilities>'
        if name == 'GetServices':
            return ''.join(f'<a:Service><a:Namespace>{each}</a:Namespace><a:XAddr>{url(each)}</a:XAddr><a:Version><t:Major>2</t:Major><t:Minor>60</t:Minor></a:Version></a:Service>' for each in known)
        if name == 'SystemReboot':
            raise Fault('Sender', 'NotAuthorized', text='Only for administrators')
    if namespace in (MEDIA, MEDIA2):
        two = namespace == MEDIA2
        if name == 'GetProfiles':
            source, head = '<t:Name>v</t:Name><t:SourceToken>src0</t:SourceToken>', '<t:Name>p</t:Name><t:NodeToken>node</t:NodeToken>'
            if two:
                return f'<a:Profiles token="fixed"><a:Name>Overview</a:Name><a:Configurations><a:VideoSource token="v">{source}</a:VideoSource></a:Configurations></a:Profiles><a:Profiles token="live"><a:Name>Live</a:Name><a:Configurations><a:VideoSource token="v">{source}</a:VideoSource><a:VideoEncoder token="e"><t:Name>e</t:Name><t:Encoding>H264</t:Encoding><t:Resolution><t:Width>1920</t:Width><t:Height>1080</t:Height></t:Resolution><t:Quality>80</t:Quality></a:VideoEncoder><a:PTZ token="p">{head}</a:PTZ></a:Configurations></a:Profiles>'
            return f'<a:Profiles token="fixed" fixed="true"><t:Name>Overview</t:Name><t:VideoSourceConfiguration token="v">{source}</t:VideoSourceConfiguration></a:Profiles><a:Profiles token="live" fixed="true"><t:Name>Live</t:Name><t:VideoSourceConfiguration token="v">{source}</t:VideoSourceConfiguration><t:VideoEncoderConfiguration token="e"><t:Name>e</t:Name><t:Encoding>H264</t:Encoding><t:Resolution><t:Width>1920</t:Width><t:Height>1080</t:Height></t:Resolution><t:Quality>80</t:Quality></t:VideoEncoderConfiguration><t:PTZConfiguration token="p">{head}</t:PTZConfiguration></a:Profiles>'
        if name == 'GetVideoSources':
            return '<a:VideoSources token="src0"><t:Framerate>50</t:Framerate><t:Resolution><t:Width>1920</t:Width><t:Height>1080</t:Height></t:Resolution></a:VideoSources>'
        if name == 'GetSnapshotUri':
            uri = f'http://{host}/still.svg'
            return f'<a:Uri>{uri}</a:Uri>' if two else f'<a:MediaUri><t:Uri>{uri}</t:Uri></a:MediaUri>'
    if namespace == PTZ:
        if text(body, 'ProfileToken') != 'live': raise Fault('Sender', 'InvalidArgVal', 'NoProfile', text='No such profile')
        if name == 'GetStatus':
            moving = lambda *names: 'MOVING' if any(speeds[each] or each in goal for each in names) else 'IDLE'
            return f'<a:PTZStatus>{place("Position", axes)}<t:MoveStatus><t:PanTilt>{moving("pan", "tilt")}</t:PanTilt><t:Zoom>{moving("zoom")}</t:Zoom></t:MoveStatus><t:UtcTime>2026-01-01T00:00:00Z</t:UtcTime></a:PTZStatus>'
        if name == 'GetPresets':
            return ''.join(f'<a:Preset token="{token}"><t:Name>{escaped(called)}</t:Name>{place("PTZPosition", at)}</a:Preset>' for token, called, at in presets)
        if name == 'ContinuousMove':
            for_s = seconds(text(body, 'Timeout')) if find(body, 'Timeout') is not None else 5
            if for_s > 60: raise Fault('Sender', 'InvalidArgVal', 'TimeoutNotSupported', text='Too long')
            wanted = part(body, 'Velocity')
            for axis, value in wanted.items():
                goal.pop(axis, None)
                speeds[axis] = value
                until['zoom' if axis == 'zoom' else 'head'] = time.monotonic() + for_s
            say(name, json.dumps(wanted))
            return ''
        if name == 'Stop':
            both = find(body, 'PanTilt') is None and find(body, 'Zoom') is None
            for tag, names in (('PanTilt', ('pan', 'tilt')), ('Zoom', ('zoom',))):
                if both or text(body, tag) == 'true':
                    for axis in names:
                        speeds[axis] = 0.0
                        goal.pop(axis, None)
            say(name, text(body, 'PanTilt'), text(body, 'Zoom'))
            return ''
        if name in ('AbsoluteMove', 'RelativeMove'):
            wanted = part(body, 'Position' if name == 'AbsoluteMove' else 'Translation')
            for axis, value in wanted.items():
                speeds[axis] = 0.0
                goal[axis] = value if name == 'AbsoluteMove' else axes[axis] + value
            say(name, json.dumps(wanted))
            return ''
        if name in ('GotoPreset', 'GotoHomePosition'):
            at = home if name == 'GotoHomePosition' else preset_of(body)[2]
            for axis, value in at.items():
                speeds[axis] = 0.0
                goal[axis] = value
            say(name, text(body, 'PresetToken') or '')
            return ''
        if name == 'SetHomePosition':
            home.update(axes)
            return ''
        if name == 'SetPreset':
            if any(speeds.values()) or goal: raise Fault('Receiver', 'Action', 'MovingPTZ', text='Moving', status=500)
            called = text(body, 'PresetName')
            if find(body, 'PresetToken') is not None:
                found = preset_of(body)
                found[1:] = [called or found[1], dict(axes)]
            else:
                found = [f'tok{20 + len(presets)}', called or 'unnamed', dict(axes)]
                presets.append(found)
            say(name, found[0])
            return f'<a:PresetToken>{found[0]}</a:PresetToken>'
        if name == 'RemovePreset':
            presets.remove(preset_of(body))
            say(name, text(body, 'PresetToken'))
            return ''
        if name == 'SendAuxiliaryCommand':
            say(name, text(body, 'AuxiliaryData'))
            return '<a:AuxiliaryResponse/>'
    if namespace == IMAGING:
        if text(body, 'VideoSourceToken') != 'src0': raise Fault('Sender', 'InvalidArgVal', 'NoSource', text='No such source')
        if name == 'GetImagingSettings':
            groups, out = {}, ''
            for key, value in looks.items():
                group, _, leaf = key.partition('/')
                groups.setdefault(group, []).append((leaf, value))
            for group, leaves in groups.items():
                inner = ''.join(f'<t:{leaf}>{value}</t:{leaf}>' if leaf else str(value) for leaf, value in leaves)
                out += f'<t:{group}>{inner}</t:{group}>'
            return f'<a:ImagingSettings>{out}</a:ImagingSettings>'
        if name == 'SetImagingSettings':
            wanted = {}
            for group in find(body, 'ImagingSettings'):
                for leaf in list(group) or [None]:
                    key = local(group) if leaf is None else f'{local(group)}/{local(leaf)}'
                    value = (group if leaf is None else leaf).text
                    if key not in looks: raise Fault('Sender', 'InvalidArgVal', 'SettingsInvalid', text=key)
                    wanted[key] = float(value) if isinstance(looks[key], float) else value
                    if isinstance(looks[key], float) and wanted[key] > 100 and 'ExposureTime' not in key:
                        raise Fault('Sender', 'InvalidArgVal', 'SettingsInvalid', text='Out of range')
            looks.update(wanted)
            say(name, json.dumps(wanted))
            return ''
        if name == 'Move':
            speed = text(body, 'Focus', 'Continuous', 'Speed')
            if speed is not None: focus_speed = float(speed)
            say(name, speed or text(body, 'Focus', 'Absolute', 'Position'))
            return ''
        if name == 'Stop':
            focus_speed = 0.0
            say('StopFocus')
            return ''
        if name == 'GetStatus':
            return f'<a:Status><t:FocusStatus20><t:Position>{focus:.3f}</t:Position><t:MoveStatus>IDLE</t:MoveStatus></t:FocusStatus20></a:Status>'
    raise Fault('Receiver', 'ActionNotSupported', text='Not here', status=500)

# May be asked by everybody (Core, “Access policy”: PRE_AUTH).
open_to_all = {'GetSystemDateAndTime', 'GetCapabilities', 'GetServices'}

class Camera(BaseHTTPRequestHandler):
    protocol_version = 'HTTP/1.1'

    def log_message(self, *words): pass

    def reply(self, status, kind, content, **headers):
        data = content.encode()
        self.send_response(status)
        self.send_header('Content-Type', kind)
        self.send_header('Content-Length', str(len(data)))
        for name, value in headers.items(): self.send_header(name.replace('_', '-'), value)
        self.end_headers()
        self.wfile.write(data)

    def challenge(self):
        self.reply(401, 'text/plain', 'no', WWW_Authenticate='Digest realm="reach", nonce="n0nce", qop="auth", algorithm=MD5')

    def do_GET(self):
        if self.path == '/state':
            with lock:
                return self.reply(200, 'application/json', json.dumps({**axes, 'focus': focus, 'speeds': speeds, 'presets': presets, 'looks': looks, 'home': home, 'asked': asked}))
        if self.path == '/still.svg':
            if not check_digest(self.headers.get('Authorization'), 'GET', self.path): return self.challenge()
            return self.reply(200, 'image/svg+xml', '<svg xmlns="http://www.w3.org/2000/svg"/>')
        self.reply(404, 'text/plain', 'nothing here')

    def do_POST(self):
        data = self.rfile.read(int(self.headers['Content-Length']))
        assert self.headers['Content-Type'].startswith('application/soap+xml'), self.headers['Content-Type']
        envelope = tree.fromstring(data)
        assert envelope.tag == f'{{{SOAP}}}Envelope', envelope.tag
        body = envelope.find(f'{{{SOAP}}}Body')[0]
        namespace, name = body.tag[1:].split('}')
        if paths.get(namespace) != self.path: return self.reply(404, 'text/plain', f'{namespace} is not at {self.path}')
        try:
            if name not in open_to_all:
                by_token = sign_in != 'digest' and check_token(envelope)
                by_digest = sign_in != 'token' and check_digest(self.headers.get('Authorization'), 'POST', self.path)
                if not by_token and not by_digest:
                    if sign_in != 'token': return self.challenge()
                    raise Fault('Sender', 'NotAuthorized', text='Sender not authorized')
            if name == 'ContinuousMove': time.sleep(slow)
            with lock: inner = answer(namespace, body, self.headers['Host'])
            self.envelope(200, f'<a:{name}Response xmlns:a="{namespace}" xmlns:t="{TT}">{inner}</a:{name}Response>')
        except Fault as fault:
            code, *more = fault.codes
            nested = ''
            for each in reversed(more): nested = f'<env:Subcode><env:Value>er:{each}</env:Value>{nested}</env:Subcode>'
            reason = f'<env:Reason><env:Text xml:lang="en">{fault.text}</env:Text></env:Reason>'
            self.envelope(fault.status, f'<env:Fault><env:Code><env:Value>env:{code}</env:Value>{nested}</env:Code>{reason}</env:Fault>')

    def envelope(self, status, inner):
        self.reply(status, 'application/soap+xml; charset=utf-8', f'<?xml version="1.0" encoding="utf-8"?>\r\n<env:Envelope xmlns:env="{SOAP}" xmlns:er="http://www.onvif.org/ver10/error"><env:Body>{inner}</env:Body></env:Envelope>')

threading.Thread(target=run, daemon=True).start()
server = ThreadingHTTPServer(('127.0.0.1', want.get('port', 0)), Camera)
server.daemon_threads = True
print(server.server_address[1], flush=True)
server.serve_forever()
