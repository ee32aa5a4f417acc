interface SelectProps<K extends string> {
  value: K;
  options: readonly { key: K; label: string }[];
  onChange: (value: K) => void;
  id?: string | undefined;
  /** Its name, where no label stands beside it. */
  label?: string | undefined;
  className?: string | undefined;
  disabled?: boolean | undefined;
}

/** One of several: the browser's own, which phones and readers know best. */
export function Select<K extends string>({
  value,
  options,
  onChange,
  id,
  label,
  className = 'bt-input bt-select',
  disabled,
}: SelectProps<K>) {
  return (
    <select
      id={id}
      aria-label={label}
      className={className || undefined}
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value as K)}
    >
      {options.map((each) => (
        <option key={each.key} value={each.key}>
          {each.label}
        </option>
      ))}
    </select>
  );
}
