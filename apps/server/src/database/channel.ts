import { KeptConnection } from './kept-connection.ts';

/** Listens to channels of PostgreSQL's NOTIFY. */
export class Channel {
  private readonly connection: KeptConnection;

  /**
   * @param hear what is done with a message, by channel @param onGap called after
   * messages may have been missed
   */
  constructor(hear: Record<string, (payload: string) => void>, onGap: () => void = () => {}) {
    const hearers = new Map(Object.entries(hear));
    this.connection = new KeptConnection(async (client) => {
      client.on('notification', ({ channel, payload }) => payload && hearers.get(channel)?.(payload));
      for (const name of hearers.keys()) await client.query(`listen ${name}`);
    }, onGap);
  }

  open(): Promise<void> {
    return this.connection.open();
  }

  close(): Promise<void> {
    return this.connection.close();
  }
}
