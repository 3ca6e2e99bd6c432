import type { NextConfig } from 'next';

/** Devices and services of the browser that nothing here asks for. */
const UNUSED = [
  'camera',
  'microphone',
  'geolocation',
  'payment',
  'usb',
  'serial',
  'hid',
  'midi',
  'bluetooth',
  'display-capture',
  'browsing-topics',
];

const config: NextConfig = {
  serverExternalPackages: ['@electric-sql/pglite', 'pg', 'sharp', 'fs-native-extensions', 'pino'],
  poweredByHeader: false,
  // On this machine's own address packing takes longer than sending; a proxy before other addresses packs for them.
  compress: false,
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
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'Permissions-Policy', value: UNUSED.map((name) => `${name}=()`).join(', ') },
        ],
      },
    ];
  },
};

export default config;
