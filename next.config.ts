import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  outputFileTracingRoot: import.meta.dirname,
  // ./check has a step of its own for types, tests and scripts included; once is enough.
  typescript: { ignoreBuildErrors: true },
};

export default config;
