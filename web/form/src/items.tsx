import { Heading } from './Heading.tsx';
import { Icon } from './Icon.tsx';
import { useTold } from './hooks.ts';
import type { FieldItem, Item, MarkItem, PanelItem, RelatedItem, TextRun } from './types.ts';
import { display, fill } from './values.ts';

interface OtherProps {
  item: Exclude<Item, FieldItem | PanelItem | RelatedItem>;
  ghost: { why: string | undefined; className: (name: string) => string };
}

/** Everything in a cell that is neither a field nor a panel. */
export function Other({ item, ghost }: OtherProps) {
  const store = useTold('values');
  const { form, surroundings } = store;
  const shared = { className: ghost.className(`bt-item bt-${item.kind}`), title: ghost.why, 'data-node': item.id };
  const value = (field: string) => {
    const type = form.fields[field];
    return type ? display(type, store.get(field), form.language, surroundings.timeZone, store.name(field)) : '';
  };
  // What is put into an address cannot change where it leads.
  const address = (text: string) => (text.startsWith('file:') ? surroundings.fileAddress(text.slice(5)) : fill(text, (field) => encodeURIComponent(value(field))));
  switch (item.kind) {
    case 'image':
      return <img {...shared} src={address(item.address)} alt={item.alt} style={item.lines ? { height: `${item.lines * 1.4}em` } : undefined} />;
    case 'link':
      return <a {...shared} className={`${shared.className} bt-link`} href={address(item.address)} rel="noreferrer noopener" target="_blank">{item.label}</a>;
    case 'action':
      if (item.does === 'open') return <a {...shared} data-weight={item.weight} href={address(item.address ?? '')} rel="noreferrer noopener" target="_blank"><Icon path={item.icon} />{item.label}</a>;
      return (
        <button
          {...shared} type="button" data-weight={item.weight} disabled={form.mode === 'view' && item.does === 'set'}
          onClick={() => {
            if (item.does === 'set') store.apply(item.values ?? {});
            // Where such records are shown in this form, one is begun there.
            else if (form.mode === 'view' || !store.addRelated(item.begins ?? '', item.through ?? '', store.work(item.values ?? {}))) surroundings.begin?.(item.begins ?? '', item.through ?? '', store.work(item.values ?? {}), store.record);
          }}
        >
          <Icon path={item.icon} />{item.label}
        </button>
      );
    default:
      return <Mark item={item} shared={shared} value={value} />;
  }
}

function Mark({ item, shared, value }: { item: MarkItem; shared: React.HTMLAttributes<HTMLElement> & { 'data-node': string }; value: (field: string) => string }) {
  if (item.kind === 'heading') return <Heading {...shared}>{item.content}</Heading>;
  if (item.kind === 'divider') return <hr {...shared} data-size={item.content} />;
  if (item.kind === 'spacer') return <div {...shared} data-size={item.content} aria-hidden />;
  const run = (each: TextRun, i: number) => {
    const text = fill(each.text, value);
    return each.kind === 'strong' ? <strong key={i}>{text}</strong> : each.kind === 'emphasis' ? <em key={i}>{text}</em> : each.kind === 'link' ? <a key={i} className="bt-link" href={each.to} rel="noreferrer noopener" target="_blank">{text}</a> : text;
  };
  return (
    <div {...shared}>
      {(item.blocks ?? []).map((block, i) => {
        if (block.kind === 'paragraph') return <p key={i}>{block.lines[0]?.map(run)}</p>;
        const lines = block.lines.map((line, j) => <li key={j}>{line.map(run)}</li>);
        return block.kind === 'list' ? <ul key={i}>{lines}</ul> : <ol key={i}>{lines}</ol>;
      })}
    </div>
  );
}
