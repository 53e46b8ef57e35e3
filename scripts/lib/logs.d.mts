export function rotate(file: string): void;
export function rotateRegularly(files: string[]): void;
