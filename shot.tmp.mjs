import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
const py = `
import os, pty, tty
m,s=pty.openpty(); tty.setraw(s); print(os.ttyname(s),flush=True)
while True:
    d=os.read(m,100); os.write(m,b'T=20\\r')
`;
const c = spawn('/usr/bin/python3',['-u','-c',py]); const path = await new Promise(r=>c.stdout.once('data',d=>r(String(d).trim())));
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
await p.goto('http://127.0.0.1:4730/rig'); await p.getByRole('button',{name:'Add device'}).click();
await p.waitForTimeout(1500);
await p.getByText('Choose a driver').click(); await p.keyboard.type('serial text'); await p.waitForTimeout(500); await p.keyboard.press('Enter'); await p.waitForTimeout(1500);
await p.screenshot({path:'/tmp/s1.png'});
await p.getByRole('textbox',{name:'Serial port'}).fill(path);
await p.getByRole('combobox',{name:'Ask something regularly'}).click(); await p.getByRole('option',{name:'yes'}).click();
await p.getByRole('textbox',{name:'The question'}).fill('T?');
await p.getByRole('textbox',{name:'Serial port'}).press('Enter'); await p.waitForTimeout(6000);
await p.getByRole('button',{name:/Test connection/}).scrollIntoViewIfNeeded();
await p.screenshot({path:'/tmp/s2.png'});
await p.getByRole('button',{name:'Add device'}).last().click(); await p.waitForTimeout(3000);
await p.screenshot({path:'/tmp/s3.png'});
await b.close(); c.kill();
