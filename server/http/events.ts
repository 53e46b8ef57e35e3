/**
 * Server-sent events: the whole state of a shot, or the list of shots, on every change. State and not
 * steps, so a page that reconnects, or comes late, is right with the first event it gets.
 */
import type { Request, Response } from 'express';
import { log } from '../log.ts';

/** At most so often; what happens in between is in the next event. */
const PAUSE_MS = 250;
const HEARTBEAT_MS = 15_000;

export class EventHub {
  private readonly streams = new Set<Stream>();

  /** Sends `read()` now and after every change, until the page goes. */
  open(request: Request, response: Response, read: () => Promise<{ id: string; state: unknown }>): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
    });
    const stream = new Stream(response, read, String(request.headers['last-event-id'] ?? ''));
    this.streams.add(stream);
    request.on('close', () => {
      stream.close();
      this.streams.delete(stream);
    });
    stream.changed();
  }

  /** Something that pages show has changed. */
  changed(): void {
    for (const stream of this.streams) stream.changed();
  }

  close(): void {
    for (const stream of this.streams) stream.close();
  }
}

class Stream {
  private timer: NodeJS.Timeout | null = null;
  private readonly heartbeat: NodeJS.Timeout;
  private reading = false;
  private again = false;
  private readAt = 0;

  constructor(
    private readonly response: Response,
    private readonly read: () => Promise<{ id: string; state: unknown }>,
    private sent: string,
  ) {
    this.heartbeat = setInterval(() => response.write(': here\n\n'), HEARTBEAT_MS);
  }

  changed(): void {
    if (this.reading) this.again = true;
    else if (!this.timer)
      this.timer = setTimeout(() => void this.send(), Math.max(0, this.readAt + PAUSE_MS - Date.now()));
  }

  private async send(): Promise<void> {
    this.timer = null;
    this.reading = true;
    this.readAt = Date.now();
    try {
      const { id, state } = await this.read();
      if (id !== this.sent && !this.response.writableEnded)
        this.response.write(`id: ${id}\nevent: state\ndata: ${JSON.stringify(state)}\n\n`);
      this.sent = id;
    } catch (error) {
      log.warn({ error: String(error) }, 'event not sent');
      // The page connects again and gets a plain answer about what is wrong.
      this.response.end();
    } finally {
      this.reading = false;
      if (this.again) {
        this.again = false;
        this.changed();
      }
    }
  }

  close(): void {
    clearInterval(this.heartbeat);
    if (this.timer) clearTimeout(this.timer);
    this.response.end();
  }
}
