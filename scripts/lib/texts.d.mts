export const CATALOGUES: Record<string, string[]>;
export function catalogueOf(path: string): string | null;
export function textsOf(path: string, source: string): { line: number; text: string }[];
