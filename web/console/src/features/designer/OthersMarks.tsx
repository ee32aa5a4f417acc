import { usePeople } from '../../shell/people.ts';

/** Colours people are told apart by. */
const hues = 4;

/** What others have selected, under their names, where it is on the form. */
export function OthersMarks({ others }: { others: ReadonlyMap<string, { nodes: readonly string[] }> }) {
  const people = usePeople();
  return (
    <>
      {[...others].flatMap(([person, { nodes }], i) =>
        nodes.map((id, at) => (
          <div key={`${person} ${id}`} className="mark-other" data-hue={(i % hues) + 1} data-for={id}>
            {at === 0 && <span>{people.name(person)}</span>}
          </div>
        )),
      )}
    </>
  );
}
