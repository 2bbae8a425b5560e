import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import express from 'express';
import type { NextFunction, Request, Response } from 'express';

/**
 * The built interface; every address that is not the API's is the interface's own. @param base where the page
 * finds what it loads
 */
export function serveWeb(app: NestExpressApplication, folder: string, base: string): void {
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, file) =>
        response.setHeader(
          'Cache-Control',
          file.includes(`${path.sep}assets${path.sep}`) ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
    }),
  );
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (
      !['GET', 'HEAD'].includes(request.method) ||
      request.path.startsWith('/api') ||
      path.extname(request.path)
    )
      return next();
    readFile(path.join(folder, 'index.html'), 'utf8').then(
      (page) =>
        response
          .set('Cache-Control', 'no-cache')
          .type('html')
          .send(page.replace('<base href="/" />', `<base href="${base}" />`)),
      next,
    );
  });
}
