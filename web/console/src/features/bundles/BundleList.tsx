import { useState } from 'react';
import { say, type TextKey } from '../../shell/configurator/texts.ts';
import { documentName, isSingle, nameOf } from '../../shell/configurator/documentNames.ts';
import type { NamedFile } from './bundle.ts';
import type { ImportedBundle } from './useBundleImport.ts';

/** What would come of a document, said beside its name. */
const comes: Record<string, TextKey> = {
  made: 'bundleChange.made',
  changed: 'bundleChange.changed',
  merged: 'bundleChange.merged',
  unchanged: 'bundleChange.unchanged',
  conflict: 'bundleChange.conflict',
};

/** The documents of a bundle: which are taken, under which key, and what would come of each. */
export function BundleList({ bundle }: { bundle: ImportedBundle }) {
  /** Whether documents of which nothing would come are shown, too. */
  const [whole, setWhole] = useState(false);
  const same = bundle.all.filter((each) => bundle.outcome.get(nameOf(each))?.change === 'unchanged');
  return (
    <ul className="bundle-list" data-whole={whole ? '' : undefined}>
      <li className="bundle-head" aria-hidden>
        <span>{say('importDialog.document')}</span>
        <span>{say('importDialog.result')}</span>
        <span>{say('importDialog.keyHere')}</span>
      </li>
      {bundle.all.map((each) => (
        <BundleEntry key={nameOf(each)} bundle={bundle} document={each} />
      ))}
      {same.length > 0 && (
        <li className="bundle-same">
          <button type="button" className="bt-link" aria-expanded={whole} onClick={() => setWhole(!whole)}>
            {say(whole ? 'importDialog.hideSame' : 'importDialog.showSame', same.length)}
          </button>
        </li>
      )}
    </ul>
  );
}

function BundleEntry({ bundle: { choice, change, outcome }, document }: { bundle: ImportedBundle; document: NamedFile }) {
  const { left, keys } = choice;
  const name = nameOf(document);
  const comesOf = outcome.get(name);
  const words = [
    ...(comesOf?.conflicts ?? []),
    ...(comesOf?.base ? [comesOf.base] : []),
    ...(comesOf?.summary ?? []),
    ...(comesOf?.impact ?? []).map((place) => say('importDialog.noticedBy', place)),
  ];
  const take = (taken: boolean) => change({ left: new Set(taken ? [...left].filter((one) => one !== name) : [...left, name]) });
  return (
    <li data-change={comesOf?.change}>
      <label>
        <input type="checkbox" checked={!left.has(name)} onChange={(event) => take(event.target.checked)} /> {documentName(document)}
      </label>
      <span className="bundle-change">{left.has(name) ? say('importDialog.notTaken') : comesOf ? say(comes[comesOf.change]!) : ''}</span>
      {!isSingle(document.kind) && !left.has(name) && (
        <input
          className="bt-input"
          aria-label={say('importDialog.keyHereOfThe', documentName(document))}
          title={say('importDialog.newKey')}
          placeholder={document.key}
          autoComplete="off"
          spellCheck={false}
          value={keys.get(name) ?? ''}
          onChange={(event) => change({ keys: new Map([...keys, [name, event.target.value.trim()]]) })}
        />
      )}
      {words.length > 0 && (
        <details>
          <summary>{comesOf?.change === 'conflict' ? say('importDialog.conflicts') : say('importDialog.changes')}</summary>
          <ul>
            {words.map((word, i) => (
              <li key={i}>{word}</li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}
