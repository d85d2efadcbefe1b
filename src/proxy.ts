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

/** Every answer has a policy. That of a page has a nonce of its own (docs/architecture.md). */
export function proxy(request: NextRequest) {
  const development = process.env.NODE_ENV === 'development';
  if (isFile(request.nextUrl.pathname)) return withHeaders(NextResponse.next(), OF_FILES);
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
