/**
 * Server-sent events: the whole state of a shot, or the list of shots, on every change. State and not
 * steps, so a page that reconnects, or comes late, is right with the first event it gets. A topic is read once for each
 * change, however many pages follow it, and a page that does not read is sent the newest state once it does.
 */
import type { Request, Response } from 'express';
import type { Notice } from '../../core/contracts/events.ts';
import { isAway, RequestError } from '../errors.ts';
import { log } from '../log.ts';
import type { StateText } from '../state-text.ts';

/** At most so often; what happens in between is in the next event. */
const PAUSE_MS = 250;
const HEARTBEAT_MS = 15_000;
/** A database that is away is asked again so often. */
const AGAIN_MS = 500;
/** Streams that are open at once. */
const MOST_STREAMS = 500;
/** A page that has not read for so long is let go; it connects again when it wakes. */
const LONGEST_DEAF_MS = 60_000;

export class EventHub {
  private readonly topics = new Map<string, Topic>();
  private notices: Notice[] = [];

  /**
   * Sends what `read` gives now and after every change, until the page goes.
   * @param name topics of one name are read once for all
   * @throws RequestError 503 when too many streams are open
   */
  open(request: Request, response: Response, name: string, read: () => Promise<StateText>): void {
    if ([...this.topics.values()].reduce((sum, { size }) => sum + size, 0) >= MOST_STREAMS)
      throw new RequestError(503, `${MOST_STREAMS} pages follow this server already. Close some, or try again later.`);
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
    });
    let topic = this.topics.get(name);
    if (!topic) this.topics.set(name, (topic = new Topic(read)));
    const stream = new Stream(response, String(request.headers['last-event-id'] ?? ''));
    stream.send('notices', JSON.stringify(this.notices));
    topic.add(stream);
    response.on('close', () => {
      topic.remove(stream);
      if (topic.size === 0 && this.topics.get(name) === topic) this.topics.delete(name);
    });
  }

  /** Something that pages show has changed. @param only the topic it is in; null: any */
  changed(only: ((name: string) => boolean) | null = null): void {
    for (const [name, topic] of this.topics) if (!only || only(name)) topic.changed();
  }

  /** What every page should know. */
  notify(notices: Notice[]): void {
    this.notices = notices;
    for (const topic of this.topics.values()) topic.each((stream) => stream.send('notices', JSON.stringify(notices)));
  }

  close(): void {
    for (const topic of this.topics.values()) topic.close();
    this.topics.clear();
  }
}

class Topic {
  private readonly streams = new Set<Stream>();
  private timer: NodeJS.Timeout | null = null;
  private reading = false;
  private again = false;
  private readAt = 0;
  private last: StateText | null = null;

  constructor(private readonly read: () => Promise<StateText>) {}

  get size(): number {
    return this.streams.size;
  }

  add(stream: Stream): void {
    this.streams.add(stream);
    if (this.last) stream.offer(this.last);
    // What was read for others may be older than what this page has just done.
    this.changed();
  }

  remove(stream: Stream): void {
    stream.close();
    this.streams.delete(stream);
  }

  each(use: (stream: Stream) => void): void {
    for (const stream of this.streams) use(stream);
  }

  changed(): void {
    if (this.reading) this.again = true;
    else this.timer ??= setTimeout(() => void this.refresh(), Math.max(0, this.readAt + PAUSE_MS - Date.now()));
  }

  private async refresh(): Promise<void> {
    this.timer = null;
    this.reading = true;
    this.readAt = Date.now();
    try {
      this.last = await this.read();
      for (const stream of this.streams) stream.offer(this.last);
    } catch (error) {
      if (isAway(error)) {
        this.readAt = Date.now() + AGAIN_MS - PAUSE_MS;
        this.again = true;
      } else {
        if (error instanceof RequestError && error.status === 404)
          for (const stream of this.streams) stream.send('gone', JSON.stringify(error.message));
        else log.warn({ error: String(error) }, 'event not sent');
        // Pages connect again and get a plain answer about what is wrong.
        for (const stream of this.streams) stream.close();
      }
    } finally {
      this.reading = false;
      if (this.again && this.streams.size) {
        this.again = false;
        this.changed();
      }
    }
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    for (const stream of this.streams) stream.close();
  }
}

class Stream {
  private readonly heartbeat: NodeJS.Timeout;
  /** What is to be sent once the page has read what it was sent. */
  private waiting: StateText | null = null;
  private deafSince: number | null = null;

  constructor(
    private readonly response: Response,
    private sent: string,
  ) {
    this.heartbeat = setInterval(() => this.beat(), HEARTBEAT_MS);
    response.on('drain', () => {
      this.deafSince = null;
      const { waiting } = this;
      this.waiting = null;
      if (waiting) this.offer(waiting);
    });
  }

  /** Sends a state unless it is what the page has. */
  offer(state: StateText): void {
    if (state.id === this.sent || this.response.writableEnded) return;
    if (this.response.writableNeedDrain) {
      this.waiting = state;
      this.deafSince ??= Date.now();
      return;
    }
    this.sent = state.id;
    this.response.write(`id: ${state.id}\nevent: state\ndata: ${state.text}\n\n`);
  }

  send(event: string, text: string): void {
    if (!this.response.writableEnded) this.response.write(`event: ${event}\ndata: ${text}\n\n`);
  }

  private beat(): void {
    if (this.deafSince !== null && Date.now() - this.deafSince > LONGEST_DEAF_MS) this.response.destroy();
    else if (!this.response.writableNeedDrain) this.response.write(': here\n\n');
  }

  close(): void {
    clearInterval(this.heartbeat);
    this.response.end();
  }
}
