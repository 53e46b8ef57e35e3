/**
 * Has tasks done apart from the web process, which answers meanwhile: by a few processes a lane, each task within a time
 * and a memory, killed when it exceeds them or when whoever asked is gone.
 *
 * @example
 * const facts = await apart('examineFile', { place, name }, { gone: goneSignal(response) });
 */
import { fileURLToPath } from 'node:url';
import workerpool, { type Pool } from 'workerpool';
import { config } from '../config.ts';
import { RequestError } from '../errors.ts';
import { log } from '../log.ts';
import { valueOf, type Outcome } from './outcome.ts';
import { LANE_OF, LANES, type Lane, type Tasks } from './tasks.ts';

export interface ApartOptions {
  /** Whoever asked is gone: nobody waits for the task any more. */
  gone?: AbortSignal;
  /** Bytes that are read: a second more for each ten million. */
  bytes?: number;
}

const isSource = import.meta.url.endsWith('.ts');
const entry = fileURLToPath(new URL(isSource ? './process.ts' : './apart-process.mjs', import.meta.url));
const pools = new Map<Lane, Pool>();

function poolOf(lane: Lane): Pool {
  let pool = pools.get(lane);
  if (!pool) {
    pool = workerpool.pool(entry, {
      workerType: 'process',
      // One is always there: beginning one takes longer than most tasks.
      minWorkers: 1,
      maxWorkers: LANES[lane],
      workerTerminateTimeout: 100,
      forkOpts: {
        serialization: 'advanced',
        execArgv: isSource ? ['--import', '@oxc-node/core/register', '--enable-source-maps'] : [],
        env: { ...process.env, DUSTING_APART_BYTES: String(config.apartMemory), DUSTING_APART_LANE: lane },
      },
    });
    pools.set(lane, pool);
  }
  return pool;
}

/** Begins the processes before anybody waits for them. */
export function warmUp(): void {
  for (const lane of Object.keys(LANES) as Lane[]) poolOf(lane);
}

type Result<N extends keyof Tasks> = Awaited<ReturnType<Tasks[N]>>;

/**
 * @param name of a task of `tasks.ts`
 * @throws InvalidInput, RequestError and DamagedBlob as the task does; RequestError 413 when it takes too long or too much
 */
export async function apart<N extends keyof Tasks>(
  name: N,
  input: Parameters<Tasks[N]>[0],
  { gone, bytes = 0 }: ApartOptions = {},
): Promise<Result<N>> {
  const lane = LANE_OF[name];
  if (gone?.aborted) throw new Gone();
  const seconds = config.apartSeconds + bytes / 1e7;
  const running = poolOf(lane)
    .exec(name, [input])
    .timeout(seconds * 1000);
  const leave = () => void running.cancel();
  gone?.addEventListener('abort', leave);
  try {
    return valueOf((await running) as Outcome<Result<N>>);
  } catch (error) {
    if (gone?.aborted) throw new Gone();
    throw refusal(name, lane, error as Error, seconds);
  } finally {
    gone?.removeEventListener('abort', leave);
  }
}

/** Whoever asked is gone; there is nobody to tell. */
export class Gone extends RequestError {
  constructor() {
    super(499, 'Whoever asked for this is gone.');
  }
}

/** What came in and cannot be read is told as that, whatever our reader ran into; the log has where. */
function refusal(name: string, lane: Lane, error: Error, seconds: number): Error {
  if (error.name === 'RequestError' || error.name === 'InvalidInput' || error.name === 'DamagedBlob') return error;
  if (error instanceof workerpool.Promise.TimeoutError)
    return new RequestError(413, `It took more than ${Math.round(seconds)} s and was stopped. Nothing was kept.`);
  if (error.message.includes('signalCode: `SIGUSR2`'))
    return new RequestError(
      413,
      `It took more than the ${Math.round(config.apartMemory / 2 ** 20)} MB of memory it may, and was stopped. Nothing was kept.`,
    );
  if (lane === 'ours') return error;
  log.error({ error: error.stack, name }, 'an import could not be read');
  return new RequestError(400, 'It could not be read: it does not follow its file format. Nothing was kept.');
}

export async function stopApart(): Promise<void> {
  await Promise.allSettled([...pools.values()].map((pool) => pool.terminate(true)));
}
