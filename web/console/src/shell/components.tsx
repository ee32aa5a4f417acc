import { StrictMode, type ComponentType } from 'react';
import { createRoot } from 'react-dom/client';

/** Draws a component into an element, and again with other properties. */
export function draw<Props extends object>(element: HTMLElement, Component: ComponentType<Props>, first: Props) {
  const root = createRoot(element);
  const show = (props: Props) =>
    root.render(
      <StrictMode>
        <Component {...props} />
      </StrictMode>,
    );
  show(first);
  return { show, close: () => root.unmount() };
}
