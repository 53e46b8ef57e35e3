export function addressOf(host: string): string;
