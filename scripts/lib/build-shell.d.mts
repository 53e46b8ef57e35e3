/** @returns path of the built commands */
export function buildShell(): Promise<string>;
