import { useEffect, useState } from 'react';
import { answer, api, type Release } from '../api/client.ts';

interface Told {
  key: string;
  what: string;
  words: readonly string[];
}

const of = (release: Release) => new Map(release.documents.filter((each) => each.change !== 'removed').map((each) => [`${each.kind} ${each.key}`, each]));

/** What is different between a release and any other, document by document, layouts in words. */
export function ReleaseChanges({ release, releases, onRestore }: { release: Release; releases: readonly Release[]; onRestore: ((kind: string, key: string) => void) | undefined }) {
  const older = releases.find((each) => each.number < release.number);
  const [against, setAgainst] = useState(older?.number);
  const [told, setTold] = useState<Told[]>();
  const other = releases.find((each) => each.number === against);
  useEffect(() => {
    if (!other) return undefined;
    let left = false;
    const [before, after] = [of(other), of(release)];
    const names = [...new Set([...before.keys(), ...after.keys()])].filter((name) => before.get(name)?.hash !== after.get(name)?.hash).sort();
    void Promise.all(names.map(async (name): Promise<Told> => {
      const [was, is] = [before.get(name), after.get(name)];
      const { kind, key } = (is ?? was)!;
      if (!was || !is || kind !== 'layout') return { key: name, what: !was ? 'is new' : !is ? 'is gone' : 'was changed', words: [] };
      const found = await answer(api.GET('/api/layouts/{key}/compare', { params: { path: { key }, query: { from: `release:${other.number}`, to: `release:${release.number}` } } })).catch(() => undefined);
      return { key: name, what: 'was changed', words: found?.words ?? [] };
    })).then((all) => { if (!left) setTold(all); });
    return () => {
      left = true;
    };
  }, [release, other]);
  if (!older) return <p>It is the first release there was.</p>;
  return (
    <div className="release-changes">
      <label>Compared with release <select className="bt-input" value={against} onChange={(event) => setAgainst(Number(event.target.value))}>{releases.filter((each) => each.number !== release.number).map((each) => <option key={each.number} value={each.number}>{each.number}{each.note ? `, ${each.note.slice(0, 40)}` : ''}</option>)}</select></label>
      {told?.length === 0 ? <p>Both hold the same.</p> : <dl>{told?.map((each) => <div key={each.key}><dt>{each.key} {each.what}{onRestore && of(release).has(each.key) && <> <button type="button" className="bt-link" aria-label={`Everyone gets ${each.key} as it was here`} onClick={() => { const { kind, key } = of(release).get(each.key)!; onRestore(kind, key); }}>Only this again</button></>}</dt>{each.words.map((word, i) => <dd key={i}>{word}</dd>)}</div>)}</dl>}
    </div>
  );
}
