import {
  startTransition,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { answer, api, type ChoiceListSummary, type EntityInfo, type EntityRelations, type UnitInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { useSession } from '../../shell/hooks.ts';
import { textIn, withText } from '../../shell/localTexts.ts';
import { useAnswer } from '../../shell/queries.ts';
import { Segments } from '../../ui/Segments.tsx';
import { withFields, withMoved, type EntityFile, type FieldFile } from './entityFile.ts';
import { columnsOf, sheetViews, keyColumn, type FieldColumn, type SheetContext, type SheetView } from './fieldColumns.ts';
import { FieldLine, type LineActs } from './FieldLine.tsx';

interface FieldSheetProps {
  entity: string;
  value: EntityFile;
  language: string;
  disabled: boolean;
  onChange: (next: EntityFile) => void;
  /** What else is chosen of how it is looked at. */
  children?: ReactNode;
}

const noLists: ChoiceListSummary[] = [];
const noPatterns: { key: string; label: string }[] = [];
const noUnits: UnitInfo[] = [];
const noEntities: EntityRelations[] = [];
const nothing: readonly string[] = [];

/** The fields as a sheet: one looks at one side of them at a time, changes what stands there, several at once, and puts them in order. */
export function FieldSheet({ entity, value, language, disabled, onChange, children }: FieldSheetProps) {
  const [view, setView] = useState<SheetView>('basics');
  const [selected, setSelected] = useState(nothing);
  const around = useSheetContext(entity, language);
  const columns = useMemo(() => [view === 'languages' ? keyColumn : labelColumn(around), ...columnsOf(view, around)], [view, around]);
  const body = useRef<HTMLTableSectionElement>(null);
  const drawn = useGradually(value.fields.length, view);
  const acts = useLasting({
    select: (key, on) => setSelected(on ? [...selected, key] : selected.filter((each) => each !== key)),
    change: (key, more, all) => onChange(withFields(value, all && selected.includes(key) ? selected : [key], more)),
    move: (key, to) => onChange(withMoved(value, key, to)),
    step: (key, by) => {
      const to = value.fields[value.fields.findIndex((field) => field.key === key) + by];
      if (!to) return;
      onChange(withMoved(value, key, to.key));
      requestAnimationFrame(() => body.current?.querySelector<HTMLElement>(`[data-field="${CSS.escape(key)}"] .sheet-handle`)?.focus());
    },
  });
  return (
    <>
      <div className="sheet-bar">
        <Segments
          id="field-view"
          label={say('data.fieldView')}
          value={view}
          options={sheetViews.map((key) => ({ key, label: say(`data.fieldView.${key}`) }))}
          onChange={setView}
        />
        {children}
        {selected.length > 1 && <p role="status">{say('data.selectedFields', selected.length)}</p>}
      </div>
      <div className="table-frame">
        <table className="table sketch field-sheet">
          <SheetHead columns={columns} />
          <tbody ref={body} onKeyDown={goDown}>
            {value.fields.slice(0, drawn).map((field) => (
              <FieldLine
                key={field.key}
                entity={entity}
                field={field}
                columns={columns}
                language={language}
                disabled={disabled}
                selected={selected.includes(field.key)}
                acts={acts}
              />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** How many lines are drawn at once. */
const atOnce = 80;

/** How many of very many lines are drawn: those in sight at once, the rest piece by piece, so that one can begin meanwhile. */
function useGradually(count: number, view: SheetView): number {
  const [drawn, setDrawn] = useState({ view, lines: atOnce });
  const lines = drawn.view === view ? drawn.lines : atOnce;
  useEffect(() => {
    if (lines >= count) return;
    const next = setTimeout(() => startTransition(() => setDrawn({ view, lines: lines + atOnce })), 30);
    return () => clearTimeout(next);
  }, [view, lines, count]);
  return lines;
}

/** What the sheet of an entity is made with. */
function useSheetContext(entity: string, language: string): SheetContext {
  const { application } = useSession();
  const { data: lists = noLists } = useAnswer(['documents', 'choice-lists'], () => answer(api.GET('/api/choice-lists')));
  const { data: patterns = noPatterns } = useAnswer(['documents', 'patterns'], () => answer(api.GET('/api/patterns')));
  const { data: units = noUnits } = useAnswer(['documents', 'units'], () => answer(api.GET('/api/units')));
  const { data: entities = noEntities } = useAnswer(['documents', 'relations'], () => answer(api.GET('/api/relations')));
  const isPublished = usePublished(entity);
  return useMemo(
    () => ({
      language,
      languages: application.languages,
      entities,
      roles: application.roles,
      lists,
      patterns,
      units: units.map((each) => each.unit),
      isPublished,
    }),
    [language, application, entities, lists, patterns, units, isPublished],
  );
}

/** Whether records have values of a field: everybody has it, or one may not know. */
function usePublished(entity: string): (field: FieldFile) => boolean {
  const { person } = useSession();
  // Of an entity nobody has yet nothing is known, and nothing is fixed.
  const { data: known } = useAnswer<EntityInfo | null>(['entities', entity], () =>
    answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } })).catch(() => null),
  );
  return useCallback(
    (field) => {
      if (known === undefined) return true;
      if (known === null) return false;
      return (
        known.fields.some((each) => each.key === field.key) ||
        (field.read !== undefined && !field.read.some((role) => person?.roles.includes(role)))
      );
    },
    [known, person],
  );
}

/** Acts that are the same ones from one drawing to the next, and do what those of the last drawing do. */
function useLasting(acts: LineActs): LineActs {
  const latest = useRef(acts);
  useLayoutEffect(() => {
    latest.current = acts;
  });
  const [lasting] = useState<LineActs>(() => ({
    select: (...what) => latest.current.select(...what),
    change: (...what) => latest.current.change(...what),
    move: (...what) => latest.current.move(...what),
    step: (...what) => latest.current.step(...what),
  }));
  return lasting;
}

/** What the field is called in the language one works in. */
const labelColumn = ({ language, languages }: { language: string; languages: readonly string[] }): FieldColumn => ({
  key: 'label',
  label: say('data.field'),
  of: ({ label }) => ({
    kind: 'text',
    value: textIn(label, language),
    set: (text, field) => ({ label: withText(field.label, text, language, [...languages]) ?? field.key }),
  }),
});

function SheetHead({ columns }: { columns: readonly FieldColumn[] }) {
  return (
    <thead>
      <tr>
        <td />
        {columns.map((each) => (
          <th key={each.key} scope="col">
            {each.label}
          </th>
        ))}
        <td />
      </tr>
    </thead>
  );
}

/** To the next line by Enter and the arrow down, to the one before by Shift and Enter and the arrow up; else to none. */
function stepOf({ key, shiftKey }: KeyboardEvent): -1 | 0 | 1 {
  if (key === 'ArrowDown' || (key === 'Enter' && !shiftKey)) return 1;
  return key === 'ArrowUp' || key === 'Enter' ? -1 : 0;
}

/** Goes to the same column of another line, as in a table one writes in; what was written is kept by that. */
function goDown(event: KeyboardEvent<HTMLElement>): void {
  const input = event.target;
  const by = stepOf(event);
  // In a number the arrows count.
  if (by === 0 || event.altKey || !(input instanceof HTMLInputElement) || (input.type === 'number' && event.key !== 'Enter')) return;
  const column = input.closest('td')?.dataset['column'];
  if (!column) return;
  event.preventDefault();
  const inputs = [...event.currentTarget.querySelectorAll<HTMLInputElement>(`[data-column="${CSS.escape(column)}"] input`)];
  const next = inputs[inputs.indexOf(input) + by];
  if (!next) return input.blur();
  next.focus();
  if (next.type !== 'checkbox') next.select();
}
