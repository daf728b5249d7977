/** A mixer that speaks JSON over WebSocket, in Python. RFC 6455 by its clauses: 4.2.2 the handshake, 5.2 the frames, 5.3 the mask. */
export const webSocket = `
import base64, hashlib, json, socket, struct, threading
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
def serve(peer):
    head = b''
    while b'\\r\\n\\r\\n' not in head: head += peer.recv(1)
    lines = head.decode().split('\\r\\n')
    headers = dict((k.lower(), v.strip()) for k, v in (l.split(':', 1) for l in lines[1:] if ':' in l))
    print('open', lines[0].split()[1], headers.get('authorization'), headers.get('x-key'), flush=True)
    accept = base64.b64encode(hashlib.sha1((headers['sec-websocket-key'] + '258EAFA5-E914-47DA-95CA-C5AB0DC85B11').encode()).digest()).decode()
    peer.sendall(('HTTP/1.1 101 Switching Protocols\\r\\nUpgrade: websocket\\r\\nConnection: Upgrade\\r\\nSec-WebSocket-Accept: %s\\r\\n\\r\\n' % accept).encode())
    def exactly(n):
        data = b''
        while len(data) < n:
            more = peer.recv(n - len(data))
            if not more: raise EOFError
            data += more
        return data
    def say(value):
        text = json.dumps(value).encode()
        peer.sendall(bytes([0x81]) + (bytes([len(text)]) if len(text) < 126 else b'\\x7e' + struct.pack('>H', len(text))) + text)
    mixer = {'gain': 5}
    try:
        while True:
            first, second = exactly(2)
            size = second & 127
            if size == 126: size = struct.unpack('>H', exactly(2))[0]
            mask = exactly(4)
            text = bytes(b ^ mask[n % 4] for n, b in enumerate(exactly(size)))
            if first & 15 == 8: return peer.close()
            if first & 15 != 1: continue
            asked = json.loads(text)
            print('got', json.dumps(asked), flush=True)
            if 'gain' in asked: mixer['gain'] = asked['gain']
            if 'gain' in asked or asked.get('ask') == 'status': say({'mixer': mixer})
            elif 'hello' in asked: say({'welcome': asked['hello']})
    except (EOFError, OSError): pass
while True: threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;
