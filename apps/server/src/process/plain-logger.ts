import { ConsoleLogger } from '@nestjs/common';

/** Contexts of the framework that tell at every start what it is made of. */
const CHATTER = new Set([
  'InstanceLoader',
  'RouterExplorer',
  'RoutesResolver',
  'NestFactory',
  'NestApplication',
]);

/** What happened, one line each; in tests only what went wrong. */
export class PlainLogger extends ConsoleLogger {
  constructor() {
    super({
      colors: false,
      logLevels: process.env['NODE_ENV'] === 'test' ? ['fatal'] : ['fatal', 'error', 'warn', 'log'],
    });
  }

  override log(message: unknown, ...rest: unknown[]): void {
    if (!CHATTER.has(String(rest.at(-1)))) super.log(message, ...(rest as [string]));
  }
}
