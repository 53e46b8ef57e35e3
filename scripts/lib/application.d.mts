/** Types for the tests; the scripts are plain JavaScript, since they run before any package is installed. */
export const builtParts: Record<string, string[]>;
export function startApplication(
  parts: Record<string, string[]>,
  env: Record<string, string>,
  logs: string,
  onDeath: (why: string) => void,
): Promise<{ stop(): Promise<void> }>;
