interface SegmentsProps<K extends string | number> {
  /** What is chosen; nothing where several things differ. */
  value: K | undefined;
  options: readonly { key: K; label: string }[];
  onChange: (value: K) => void;
  id: string;
  label: string;
}

/** One of a few, all in sight: a press chooses, arrows go from one to the next (radio buttons, drawn as one bar). */
export function Segments<K extends string | number>({ value, options, onChange, id, label }: SegmentsProps<K>) {
  return (
    <span className="segments" id={id} role="radiogroup" aria-label={label}>
      {options.map((each) => (
        <label key={each.key} data-on={each.key === value ? '' : undefined}>
          <input type="radio" name={id} checked={each.key === value} onChange={() => onChange(each.key)} />
          {each.label}
        </label>
      ))}
    </span>
  );
}
