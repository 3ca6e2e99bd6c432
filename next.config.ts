import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['@electric-sql/pglite', 'pg', 'sharp', 'fs-native-extensions'],
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // The largest picture with its steps; past this a body would be cut short before a route sees it.
  experimental: { proxyClientMaxBodySize: '96mb' },
  async headers() {
    return [
      {
        source: '/:path*',
        headers: [
          { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
          { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'no-referrer' },
        ],
      },
    ];
  },
};

export default config;
