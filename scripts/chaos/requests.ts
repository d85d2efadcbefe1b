import { existsSync, readdirSync, rmSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { seededRandom } from '@/core/units';
import { below, NASTY, oneOf, type Random } from './spoil';
import { withServer } from './server';

export type RequestFigures = {
  requests: number;
  /** How many answers of each class of status. */
  classes: Record<string, number>;
  /** Answers of the 500s that nobody asked for. */
  broken: string[];
  /** Answers without a policy, or that another page may frame. */
  bare: string[];
  /** Files that were written anywhere but where the stand-ins keep theirs, or that came out. */
  leaked: string[];
  /** The same order taken twice, or an answer forgotten. */
  twice: string[];
};

type Hostile = { method: string; path: string; headers: Record<string, string>; body: string };
type Answer = { status: number; headers: Record<string, string>; body: string };

/** Sent as it is: no client tidies the address first. */
function send(base: string, { method, path, headers, body }: Hostile): Promise<Answer> {
  const { hostname, port } = new URL(base);
  return new Promise((resolve, reject) => {
    const call = httpRequest({ hostname, port, method, path, headers, timeout: 20_000 }, (response) => {
      const pieces: Buffer[] = [];
      response.on('data', (piece: Buffer) => pieces.push(piece));
      response.on('end', () =>
        resolve({
          status: response.statusCode ?? 0,
          headers: Object.fromEntries(Object.entries(response.headers).map(([name, value]) => [name, String(value)])),
          body: Buffer.concat(pieces).toString('utf8').slice(0, 200_000),
        }),
      );
    });
    call.on('timeout', () => call.destroy(new Error('no answer within 20 s')));
    call.on('error', reject);
    call.end(body);
  });
}

const BEGINNINGS = [
  '/',
  '/readers/',
  '/plates/',
  '/icon.svg',
  '/favicon.ico',
  '/demo-shop.zip',
  '/package-template.zip',
  '/knowledge.json',
  '/_next/static/',
  '/_next/image',
  '/_next/',
  '/ticket/',
  '/catalogue',
  '/orders',
  '/shop',
  '/api/',
  '/api/suppliers/',
  '/api/suppliers/orders',
  '/.data/',
  '/.git/',
  '/src/',
  '/demo-shop/',
];
const ENDINGS = [
  '',
  'x',
  '/x',
  '..',
  '/../../../../etc/passwd',
  '%2e%2e%2f%2e%2e%2fetc%2fpasswd',
  '..%5c..%5cwindows',
  '%00',
  '%E0%A4%A',
  '%ZZ',
  '.map',
  '?x=1',
  '?url=http%3A%2F%2F127.0.0.1%2F&w=64&q=75',
  ';x',
  '//evil.example/',
  '\\evil',
  '<script>alert(1)</script>',
  'a'.repeat(3000),
  '.js',
  'worker.min.js',
  'tesseract-core.wasm.js.x',
  'package.json',
  'config',
  '__nextjs_original-stack-frame',
  '?_rsc=1',
];
const METHODS = ['GET', 'GET', 'GET', 'POST', 'HEAD', 'PUT', 'DELETE', 'PATCH', 'OPTIONS'];

const hex = (random: Random, length: number) => Array.from({ length }, () => below(random, 16).toString(16)).join('');
const uuid = (random: Random) =>
  `${hex(random, 8)}-${hex(random, 4)}-4${hex(random, 3)}-8${hex(random, 3)}-${hex(random, 12)}`;
const printable = (text: string) => text.replace(/[^\x20-\x7e]/g, '?');

function hostileAddress(random: Random): Hostile {
  const path = printable(`${oneOf(random, BEGINNINGS)}${oneOf(random, ENDINGS)}`).replace(/ /g, '%20');
  const headers: Record<string, string> = random() < 0.2 ? { rsc: '1', 'next-router-prefetch': '1' } : {};
  if (random() < 0.1) headers['x-middleware-subrequest'] = 'src/proxy:src/proxy:src/proxy:src/proxy:src/proxy';
  if (random() < 0.1) headers['x-forwarded-host'] = 'evil.example';
  return { method: oneOf(random, METHODS), path, headers, body: '' };
}

type OrderTexts = {
  number: string;
  day: string;
  packs: string;
  price: string;
  currency: string;
  part: string;
  lines: number;
};

const orderText = ({ number, day, packs, price, currency, part, lines }: OrderTexts): string =>
  `<?xml version="1.0" encoding="UTF-8"?><Order xmlns="urn:oasis:names:specification:ubl:schema:xsd:Order-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2"><cbc:ID>${number}</cbc:ID><cbc:IssueDate>${day}</cbc:IssueDate><cbc:Note>nq-day</cbc:Note><cbc:DocumentCurrencyCode>EUR</cbc:DocumentCurrencyCode><cac:BuyerCustomerParty><cac:Party><cac:PartyName><cbc:Name>x</cbc:Name></cac:PartyName></cac:Party></cac:BuyerCustomerParty><cac:SellerSupplierParty><cac:Party><cac:PartyName><cbc:Name>x</cbc:Name></cac:PartyName></cac:Party></cac:SellerSupplierParty>${Array.from(
    { length: lines },
    (_, index) =>
      `<cac:OrderLine><cac:LineItem><cbc:ID>l${index}</cbc:ID><cbc:Quantity unitCode="C62">${packs}</cbc:Quantity><cac:Price><cbc:PriceAmount currencyID="${currency}">${price}</cbc:PriceAmount></cac:Price><cac:Item><cac:SellersItemIdentification><cbc:ID>x</cbc:ID></cac:SellersItemIdentification><cac:ManufacturersItemIdentification><cbc:ID>${part}</cbc:ID></cac:ManufacturersItemIdentification><cac:StandardItemIdentification><cbc:ID>p</cbc:ID></cac:StandardItemIdentification></cac:Item></cac:LineItem></cac:OrderLine>`,
  ).join('')}</Order>`;

const BOMB = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "${'a'.repeat(100)}">${Array.from({ length: 12 }, (_, index) => `<!ENTITY ${String.fromCharCode(98 + index)} "&${String.fromCharCode(97 + index)};&${String.fromCharCode(97 + index)};&${String.fromCharCode(97 + index)};">`).join('')}]><x>&m;</x>`;

function hostileBody(random: Random): string {
  const odd = (usual: string) => (random() < 0.3 ? oneOf(random, NASTY).replace(/[<&]/g, '') : usual);
  switch (below(random, 9)) {
    case 0:
      return '';
    case 1:
      return oneOf(random, NASTY);
    case 2:
      return BOMB;
    case 3:
      return `${'<a>'.repeat(20_000)}`;
    case 4:
      return 'x'.repeat(1_200_000);
    case 5:
      return '{"__proto__": {"polluted": true}}';
    default:
      return orderText({
        number: odd('HW-1'),
        day: oneOf(random, ['2026-11-24', '2026-13-45', '9999-12-31', '0000-01-01', '1999-01-01', odd('2026-11-24')]),
        packs: oneOf(random, ['1', '0', '-3', '1e21', '1.5', 'NaN', odd('2')]),
        price: oneOf(random, ['1.00', '-1.00', '1e9', odd('2.00')]),
        currency: oneOf(random, ['EUR', 'constructor', '__proto__', 'USD', '']),
        part: oneOf(random, ['FJ-1', 'x'.repeat(100), odd('FJ-2')]),
        lines: oneOf(random, [0, 1, 2, 3, 600, 1700]),
      });
  }
}

function hostileOrder(random: Random, shops: readonly string[]): Hostile {
  const supplier = oneOf(random, [
    'northquay',
    'northquay',
    'nobody',
    '__proto__',
    '..%2f..',
    '%E0%A4%A',
    encodeURIComponent(printable(oneOf(random, NASTY)).slice(0, 100)),
  ]);
  const shop =
    random() < 0.8 ? oneOf(random, shops) : printable(oneOf(random, ['', '../../x', ...NASTY])).slice(0, 200);
  const key =
    random() < 0.7
      ? oneOf(random, ['k1', 'k2', '__proto__', 'constructor', hex(random, 8)])
      : printable(oneOf(random, NASTY)).trim();
  return {
    method: oneOf(random, ['POST', 'POST', 'POST', 'DELETE', 'GET', 'PUT']),
    path: `/api/suppliers/${supplier}/orders`,
    headers: { 'content-type': 'application/xml', 'x-sorter-shop': shop, 'idempotency-key': key },
    body: hostileBody(random),
  };
}

const OWN_FILE = /^suppliers-[0-9a-f-]{36}\.json(\.aside)?$/;

/** Requests that no page of Sorter sends, and what every answer must have. */
export async function hostileRequests(seed: number, count: number, port = 3290): Promise<RequestFigures> {
  const random = seededRandom(seed);
  const result: RequestFigures = { requests: count, classes: {}, broken: [], bare: [], leaked: [], twice: [] };
  const shops = Array.from({ length: 4 }, () => uuid(random));
  const top = new Set(readdirSync('.'));
  await withServer(port, async (base) => {
    for (let run = 0; run < count; run += 1) {
      const hostile = random() < 0.55 ? hostileAddress(random) : hostileOrder(random, shops);
      const named = `${hostile.method} ${hostile.path.slice(0, 90)}`;
      let answer: Answer;
      try {
        answer = await send(base, hostile);
      } catch (error) {
        // A client that may not send this at all is no fault of the server.
        if (error instanceof TypeError) continue;
        // A long body that nobody reads: the line is cut, which is an answer, too.
        if (hostile.body.length > 100_000 && error instanceof Error && /ECONNRESET|EPIPE/.test(error.message)) {
          result.classes['cut off'] = (result.classes['cut off'] ?? 0) + 1;
          continue;
        }
        result.broken.push(`${named}: ${error instanceof Error ? error.message : String(error)}`);
        continue;
      }
      const { status, headers, body } = answer;
      const kind = `${Math.floor(status / 100)}xx`;
      result.classes[kind] = (result.classes[kind] ?? 0) + 1;
      if (status >= 500) result.broken.push(`${named}: ${status} ${body.slice(0, 100)}`);
      const policy = headers['content-security-policy'] ?? '';
      const isPage = (headers['content-type'] ?? '').includes('html');
      const isEmpty = body === '' && hostile.method !== 'HEAD';
      if (isPage && !isEmpty && !/script-src [^;]*'self'/.test(policy))
        result.bare.push(`${named}: ${status} without a policy`);
      if (isPage && !isEmpty && !(policy.includes("frame-ancestors 'none'") && headers['x-frame-options'] === 'DENY'))
        result.bare.push(`${named}: ${status} can be framed`);
      if (/root:x:0|"lockfileVersion"|\[core\]/.test(body)) result.leaked.push(`${named}: a file came out`);
    }
    result.twice.push(...(await keysThatCount(base, random)));
  });
  for (const name of readdirSync('.'))
    if (!top.has(name) && name !== '.data') result.leaked.push(`a new file: ${name}`);
  if (existsSync('.data'))
    for (const name of readdirSync('.data'))
      if (!OWN_FILE.test(name)) result.leaked.push(`.data/${name}`);
      else if (shops.some((shop) => name.includes(shop))) rmSync(`.data/${name}`);
  return result;
}

/** One key, any name, at two suppliers: each answers the same ever after, and takes it once. */
async function keysThatCount(base: string, random: Random): Promise<string[]> {
  const wrong: string[] = [];
  const shop = uuid(random);
  const body = orderText({
    number: 'HW-1',
    day: '2026-11-24',
    packs: '1',
    price: '1.00',
    currency: 'EUR',
    part: 'FJ-1',
    lines: 1,
  });
  const suppliers = ['northquay', 'lindhafen', 'oldmill'];
  const ask = async (supplier: string, key: string) =>
    send(base, {
      method: 'POST',
      path: `/api/suppliers/${supplier}/orders`,
      headers: { 'content-type': 'application/xml', 'x-sorter-shop': shop, 'idempotency-key': key },
      body,
    });
  let taken = 0;
  for (const key of ['__proto__', 'constructor', 'k'])
    for (const supplier of suppliers) {
      const first = await ask(supplier, key);
      if (first.status !== 200) continue;
      taken += 1;
      for (const other of suppliers) await ask(other, key);
      if ((await ask(supplier, key)).body !== first.body) wrong.push(`${supplier} ${key}: another answer`);
    }
  const books = await send(base, {
    method: 'GET',
    path: '/api/suppliers/orders',
    headers: { 'x-sorter-shop': shop },
    body: '',
  });
  const counted: unknown = JSON.parse(books.body);
  const orders = typeof counted === 'object' && counted !== null && 'orders' in counted ? Number(counted.orders) : -1;
  if (orders !== taken) wrong.push(`${taken} orders, ${orders} in the books`);
  rmSync(`.data/suppliers-${shop}.json`, { force: true });
  return wrong;
}
