import fs from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ModelDetail } from '@bathyscope/contracts';

const DIST = fileURLToPath(new URL('../apps/web/dist-test/', import.meta.url));
const TYPES: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.svg': 'image/svg+xml',
};

/** Serves the built interface with one model and no database: the workspace is the real one. */
export async function serveModel(
  detail: ModelDetail,
  containers: ReadonlyMap<string, Uint8Array>,
): Promise<{ address: string; close: () => void }> {
  const answers: Record<string, unknown> = {
    '/api/models': [detail],
    [`/api/models/${detail.id}`]: detail,
    [`/api/models/${detail.id}/view-state`]: { document: null, revision: 1 },
    [`/api/models/${detail.id}/records`]: [],
    '/api/settings': { values: null },
    '/api/profile': { name: '' },
  };
  const server = http.createServer((request, response) => {
    const { pathname } = new URL(request.url!, 'http://localhost');
    if (request.method !== 'GET') return response.writeHead(204).end();
    const container = containers.get(path.basename(pathname));
    if (container) return response.end(container);
    if (pathname.startsWith('/api/'))
      return response
        .writeHead(pathname in answers ? 200 : 404, { 'Content-Type': 'application/json' })
        .end(JSON.stringify(answers[pathname] ?? { status: 404, detail: 'Not here.' }));
    const file = path.join(DIST, path.extname(pathname) ? pathname : 'index.html');
    if (!file.startsWith(DIST) || !fs.existsSync(file)) return response.writeHead(404).end();
    response
      .writeHead(200, { 'Content-Type': TYPES[path.extname(file)] ?? 'application/octet-stream' })
      .end(fs.readFileSync(file));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as { port: number };
  return { address: `http://127.0.0.1:${port}/models/${detail.id}`, close: () => server.close() };
}
