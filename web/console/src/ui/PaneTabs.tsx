import { useId, useRef, type KeyboardEvent, type ReactNode } from 'react';

interface PaneTabsProps<K extends string> {
  /** What the tabs are ways to look at. */
  label: string;
  tabs: readonly { key: K; title: ReactNode }[];
  selected: K;
  onSelect: (key: K) => void;
  /** What the selected tab shows. */
  children: ReactNode;
}

/** Several ways to look at one thing in a pane: arrows go from tab to tab, Tab into what is shown (ARIA practices, tabs). */
export function PaneTabs<K extends string>({ label, tabs, selected, onSelect, children }: PaneTabsProps<K>) {
  const id = useId();
  const list = useRef<HTMLDivElement>(null);
  const go = (event: KeyboardEvent) => {
    const forward = getComputedStyle(list.current!).direction === 'rtl' ? 'ArrowLeft' : 'ArrowRight';
    const by = event.key === forward ? 1 : event.key === 'ArrowLeft' || event.key === 'ArrowRight' ? -1 : 0;
    const at = tabs.findIndex((tab) => tab.key === selected);
    const next = event.key === 'Home' ? 0 : event.key === 'End' ? tabs.length - 1 : by && (at + by + tabs.length) % tabs.length;
    if (!by && event.key !== 'Home' && event.key !== 'End') return;
    event.preventDefault();
    onSelect(tabs[next]!.key);
    list.current!.querySelectorAll<HTMLElement>('[role="tab"]')[next]!.focus();
  };
  return (
    <>
      <div ref={list} className="pane-switch" role="tablist" aria-label={label} onKeyDown={go}>
        {tabs.map(({ key, title }) => (
          <button
            key={key}
            type="button"
            role="tab"
            id={`${id}-${key}`}
            className="pane-tab"
            aria-selected={key === selected}
            aria-controls={key === selected ? `${id}-panel` : undefined}
            tabIndex={key === selected ? 0 : -1}
            onClick={() => onSelect(key)}
          >
            {title}
          </button>
        ))}
      </div>
      <div id={`${id}-panel`} className="pane-panel" role="tabpanel" aria-labelledby={`${id}-${selected}`}>
        {children}
      </div>
    </>
  );
}
