/** A key after what somebody calls a thing, in the letters keys have: letters under accents stay, and none that is taken is given again. */
export function keyOf(name: string, taken: readonly string[]): string {
  const [first = '', ...rest] = name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean);
  const key =
    (first.charAt(0).toLowerCase() + first.slice(1) + rest.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('')).replace(
      /^\d+/,
      '',
    ) || 'unnamed';
  let free = key;
  for (let number = 2; taken.includes(free); number++) free = `${key}${number}`;
  return free;
}
