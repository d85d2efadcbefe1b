import { NextResponse, type NextRequest } from 'next/server';

/** Files as they are, which no page is made of: they bring no nonce, and run nothing but what comes with the application. */
const isFile = (path: string): boolean =>
  /^\/(_next\/static\/.+|demo-shop\.zip|package-template\.zip|knowledge\.json|icon\.svg|favicon\.ico|(readers|plates)\/[\w.-]+\.[a-z]+)$/.test(
    path,
  );

const OF_FILES = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "connect-src 'self' blob: data:",
  "style-src 'self' 'unsafe-inline'",
  "object-src 'none'",
  "base-uri 'none'",
  "frame-ancestors 'none'",
].join('; ');

const withHeaders = (response: NextResponse, policy: string): NextResponse => {
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-frame-options', 'DENY');
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'no-referrer');
  return response;
};

/** Whether what is written with percent signs is text at all. */
function isWellFormed(pathname: string): boolean {
  try {
    decodeURIComponent(pathname);
    return true;
  } catch {
    return false;
  }
}

const refused = (status: number, why: string): NextResponse =>
  withHeaders(new NextResponse(why, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } }), OF_FILES);

/** Every answer has a policy. That of a page has a nonce of its own (docs/architecture.md). */
export function proxy(request: NextRequest) {
  const development = process.env.NODE_ENV === 'development';
  const { pathname } = request.nextUrl;
  if (!isWellFormed(pathname)) return refused(400, 'This address is broken.');
  if (isFile(pathname) && !['GET', 'HEAD'].includes(request.method))
    return refused(405, 'This is a file: it can be fetched.');
  if (isFile(pathname)) return withHeaders(NextResponse.next(), OF_FILES);
  const nonce = btoa(crypto.randomUUID());
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${development ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "worker-src 'self' blob:",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  return withHeaders(NextResponse.next({ request: { headers } }), policy);
}

/** No address is left out: what begins like a file's may be a page that nobody has. */
export const config = { matcher: '/:path*' };
