/** How findings put things in words. */

const NAMED = 3;

/** "chimney", "chimney and globe", "a, b, c and 3 more". */
export function listed(names: string[], most = NAMED): string {
  if (names.length > most) return `${names.slice(0, most).join(', ')} and ${names.length - most} more`;
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');
}

/** "1 face", "2 faces". */
export const plural = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`; // prettier-ignore

export const percent = (share: number): string => `${share >= 0.995 ? 100 : Math.round(share * 100)} %`;

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
export const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** "diffuse.indirect" as people say it: "indirect diffuse". */
export const passName = (pass: string): string => {
  const [kind, way] = pass.split('.');
  return way ? `${way} ${kind}` : kind;
};
