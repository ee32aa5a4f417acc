/** Letters spelt in those that keys have: ICAO Doc 9303, ISO 843; Keys.cs has the same, with those that are letters under accents. */
const spellings =
  'đð=d ħ=h ı=i ŀł=l ø=o ŧ=t ß=ss æ=ae œ=oe þ=th ' +
  'а=a б=b в=v гґ=g д=d еэ=e є=ie ж=zh з=z иі=i к=k л=l м=m н=n о=o п=p р=r с=s т=t у=u ф=f х=kh ц=ts ч=ch ш=sh щ=shch ы=y ' +
  'ю=iu я=ia ј=j љ=lj њ=nj ћ=c ђ=d џ=dz ъь= ' +
  'α=a β=v γ=g δ=d ε=e ζ=z η=i θ=th ι=i κ=k λ=l μ=m ν=n ξ=x ο=o π=p ρ=r σς=s τ=t υ=y φ=f χ=ch ψ=ps ω=o';
const spelt = new Map(
  spellings.split(' ').flatMap((entry) => {
    const [letters = '', as = ''] = entry.split('=');
    return [...letters].map((letter) => [letter, as] as const);
  }),
);

/** A letter as it is spelt, as large as it is; what is of another script is left out. */
function plain(letter: string): string {
  const as = spelt.get(letter.toLowerCase());
  if (as === undefined) return letter > '\x7f' ? '' : letter;
  return letter === letter.toLowerCase() ? as : as.charAt(0).toUpperCase() + as.slice(1);
}

/** A key after what somebody calls a thing, in the letters keys have; none that is taken is given again. */
export function keyOf(name: string, taken: readonly string[]): string {
  const [first = '', ...rest] = name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/\p{L}/gu, plain)
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
