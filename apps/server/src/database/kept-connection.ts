import pg from 'pg';
import { databaseUrl } from './database-url.ts';

const PAUSE = 500;

/**
 * A connection to the database of its own, for what must hold as long as the process lives; it is made anew
 * whenever it is lost.
 */
export class KeptConnection {
  private readonly prepare: (client: pg.Client) => Promise<unknown>;
  private readonly onGap: () => void;
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  /**
   * @param prepare what each connection begins with @param onGap called when there is
   * one again after it was lost
   */
  constructor(prepare: (client: pg.Client) => Promise<unknown>, onGap: () => void = () => {}) {
    this.prepare = prepare;
    this.onGap = onGap;
  }

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: databaseUrl(), keepAlive: true });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    this.client = client;
    try {
      await client.connect();
      await this.prepare(client);
    } catch {
      this.lost(client);
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    const client = this.client;
    this.client = null;
    await client?.end().catch(() => {});
  }

  private lost(client: pg.Client): void {
    if (this.client !== client || this.closed) return;
    this.client = null;
    client.end().catch(() => {});
    this.timer = setTimeout(() => void this.open().then(() => this.client && this.onGap()), PAUSE);
  }
}
