/** The log of each render, line by line as the workers write it, in the format of our own logs. */
import { asc, eq } from 'drizzle-orm';
import { ownLine, type OwnLine } from '../../core/intake/log/own-line.ts';
import type { Database, Transaction } from '../db/database.ts';
import { renderLines } from '../db/schema.ts';
import type { RenderRow } from './renders.ts';

/** Seconds count from when the render was asked for, memory is this process's. */
export async function addLines(
  tx: Database | Transaction,
  render: RenderRow,
  frame: number,
  lines: Pick<OwnLine, 'severity' | 'phase' | 'rays' | 'message'>[],
): Promise<void> {
  if (lines.length === 0) return;
  const seconds = (Date.now() - render.createdAt.getTime()) / 1000;
  const memory = process.memoryUsage.rss();
  const rows = lines.map((line) => ({ renderId: render.id, text: ownLine({ ...line, seconds, frame, memory }) }));
  await tx.insert(renderLines).values(rows);
}

export async function linesOf(db: Database | Transaction, renderId: number): Promise<string[]> {
  const rows = await db
    .select({ text: renderLines.text })
    .from(renderLines)
    .where(eq(renderLines.renderId, renderId))
    .orderBy(asc(renderLines.id));
  return rows.map(({ text }) => text);
}
