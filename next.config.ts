import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // The front door is the only way in; it has checked the origin already, also of development requests.
  allowedDevOrigins: ['127.0.0.1', 'localhost'],
  // Types are checked over the whole tree by npm test; a user's build need not check our tests.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['better-sqlite3', 're2js'],
  // Every panel address shows the same page; which one it is, the page reads from its address.
  rewrites: async () => [{ source: '/panel/:path*', destination: '/panel' }],
};

export default config;
