import { chromium } from '@playwright/test';
import { demoMorning } from '/work/main/tests/support/demoDay';
const [out='/tmp/a.png', ticket='', width='1280', height='800', ...acts]=process.argv.slice(2);
(async()=>{
const b=await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox']});
const c=await b.newContext({viewport:{width:+width,height:+height},colorScheme:process.env.DARK?'dark':'light'});
const p=await c.newPage();
await p.clock.setFixedTime(new Date(demoMorning()));
p.on('pageerror',e=>console.log('ERR',e.message));
await p.goto('http://localhost:3300/');
if(ticket!=='-'){ await p.locator('#one-input').fill(`#${ticket}`); await p.getByRole('option',{name:`ticket ${ticket}`}).click(); await p.locator('#station-plate').waitFor({timeout:30000}); await p.waitForTimeout(1500);}
for (const a of acts){ const [k='',...r]=a.split('='); const v=r.join('=');
 if(k==='go') await p.goto('http://localhost:3300'+v);
 if(k==='key') await p.keyboard.press(v);
 if(k==='text') await p.getByText(v,{exact:false}).first().click();
 if(k==='button') await p.getByRole('button',{name:v}).first().click();
 if(k==='wait') await p.waitForTimeout(+v);
 if(k==='scroll') await p.getByText(v,{exact:false}).first().evaluate(e=>e.scrollIntoView({block:'start'}));
 if(k==='css') await p.locator(v).first().evaluate(e=>e.scrollIntoView({block:'start'}));
 if(k==='fill'){const [l='',t='']=v.split('~'); await p.getByLabel(l).first().fill(t); await p.keyboard.press('Tab');}
 if(k==='click') await p.locator(v).first().click();
 if(k==='pdf'){ const [d]=await Promise.all([p.waitForEvent('download'), p.getByRole('button',{name:v}).first().click()]); await d.saveAs('/tmp/out.pdf'); }
}
await p.waitForTimeout(900);
await p.screenshot({path:out});
await b.close();
})();
