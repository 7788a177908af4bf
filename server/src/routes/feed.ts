import type { FeedLine } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { webSocketLink, type Link } from '../bench/link.js';
import type { Database } from '../db/database.js';
import { touchedBy } from '../store.js';

/** Pages beyond these are refused. */
const MOST = 200;

/** When the newest change was made, as ISO text; null in an empty library. */
async function latestChange(db: Database): Promise<string | null> {
  const [row] = await db.query<{ at: Date | string }>('select at from change order by id desc limit 1');
  return row ? new Date(row.at).toISOString() : null;
}

/** The one stream of changes: every page hears of each change once its transaction stands, whoever made it. */
export async function feedRoutes(app: FastifyInstance, db: Database): Promise<void> {
  const pages = new Set<Link>();
  const tell = (line: FeedLine, to: Iterable<Link> = pages) => {
    const text = JSON.stringify(line);
    for (const page of to) page.send(text);
  };
  const stop = await db.listen('change', (payload) => {
    if (pages.size === 0) return;
    const batch = Number(payload);
    // Told in the order the changes were made: each waits for the one before it.
    telling = telling.then(async () => {
      tell({ tell: 'change', at: new Date().toISOString(), batch, touched: await touchedBy(db, batch) });
    }, undefined);
    telling.catch((error: unknown) => app.log.error(error));
  });
  let telling = Promise.resolve();

  app.get('/api/change/feed', { websocket: true, schema: { hide: true } }, (socket) => {
    const page = webSocketLink(socket);
    if (pages.size >= MOST) return page.close();
    pages.add(page);
    page.onClose = () => pages.delete(page);
    void latestChange(db).then((latest) => tell({ tell: 'hello', latest }, [page]));
  });
  app.addHook('preClose', async () => {
    for (const page of pages) page.close();
  });
  app.addHook('onClose', () => stop());
}
