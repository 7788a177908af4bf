import { hostname, networkInterfaces } from 'node:os';
import helmet from '@fastify/helmet';
import type { FastifyInstance } from 'fastify';
import { Problem } from './problems.js';

/** The addresses and names under which the network knows this machine. */
export function ownNames(): string[] {
  const addresses = Object.values(networkInterfaces()).flatMap((all) => all ?? []);
  return [
    ...addresses.map((a) => (a.family === 'IPv6' ? `[${a.address}]` : a.address)),
    hostname(),
    `${hostname()}.local`,
  ];
}

/**
 * Host names this server answers to; a page elsewhere that rebinds its name to this address is not among them. `own` are
 * the machine's names, where the network is served as well.
 */
export function allowedHosts(host: string, port: number, own: readonly string[] = [], usual = 80): Set<string> {
  const names = new Set([
    '127.0.0.1',
    'localhost',
    '[::1]',
    host.includes(':') && !host.startsWith('[') ? `[${host}]` : host,
    ...own,
  ]);
  return new Set(
    [...names].map((n) => n.toLowerCase()).flatMap((name) => [`${name}:${port}`, ...(port === usual ? [name] : [])]),
  );
}

/**
 * No page elsewhere can drive this server: the Host must be one of ours, and a request that changes anything must come
 * from our own page (its Origin) or from no page at all.
 */
export async function secure(
  app: FastifyInstance,
  options: { readonly hosts: () => Set<string> | undefined; readonly tls?: boolean },
): Promise<void> {
  const scheme = options.tls ? 'https://' : 'http://';
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // Vue and Element Plus set inline style attributes; no inline script or style sheet is allowed.
        styleSrc: ["'self'"],
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // The same as frame-ancestors above, for what reads only this.
    frameguard: { action: 'deny' },
    strictTransportSecurity: false,
    crossOriginOpenerPolicy: { policy: 'same-origin' },
  });
  app.addHook('onRequest', async (request) => {
    const hosts = options.hosts();
    if (!hosts) return;
    // Names are the same in capitals.
    if (!hosts.has((request.headers.host ?? '').toLowerCase())) {
      throw new Problem('foreign-page', `This server does not answer to the name “${request.headers.host ?? ''}”.`);
    }
    const { origin } = request.headers;
    const site = request.headers['sec-fetch-site'];
    const foreign =
      origin !== undefined
        ? !origin.toLowerCase().startsWith(scheme) || !hosts.has(origin.slice(scheme.length).toLowerCase())
        : site === 'cross-site' || site === 'same-site';
    if (foreign && (request.method !== 'GET' || request.url.startsWith('/api/'))) {
      throw new Problem('foreign-page', 'Another page tried to use this server. Open Alluvium itself.');
    }
  });
}
