/** @type {import("next").NextConfig} */
const config = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ["better-sqlite3", "pino", "serialport", "sharp"],
  // Types are checked by `npm run types`, together with the tests.
  typescript: { ignoreBuildErrors: true },
  turbopack: { root: import.meta.dirname },
  // 127.0.0.1 is this program's own address.
  allowedDevOrigins: ["127.0.0.1"],
};

export default config;
