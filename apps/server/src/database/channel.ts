import pg from 'pg';
import { databaseUrl } from './database-url.ts';

const PAUSE = 500;

/** Listens to channels of PostgreSQL's NOTIFY on a connection of its own, which is made anew whenever it is lost. */
export class Channel {
  private readonly hear: ReadonlyMap<string, (payload: string) => void>;
  private readonly onGap: () => void;
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  /** @param hear what is done with a message, by channel @param onGap called after messages may have been missed */
  constructor(hear: Record<string, (payload: string) => void>, onGap: () => void = () => {}) {
    this.hear = new Map(Object.entries(hear));
    this.onGap = onGap;
  }

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: databaseUrl(), keepAlive: true });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    client.on('notification', ({ channel, payload }) => payload && this.hear.get(channel)?.(payload));
    this.client = client;
    try {
      await client.connect();
      for (const name of this.hear.keys()) await client.query(`listen ${name}`);
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
