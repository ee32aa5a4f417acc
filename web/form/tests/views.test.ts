import { fireEvent, screen, within } from '@testing-library/dom';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { ErrorSummary } from '../src/drawing/summary.ts';
import { FormStore } from '../src/state/store.ts';
import { around, sail, field, row, section, page, formOf, shown, node, control } from './forms.ts';

describe('what is hidden leaves no hole', () => {
  const content = {
    pages: [
      page(
        'a',
        section('identity', [row('r1', field('name'), field('mast', { visible: sail })), row('r2', field('length', { visible: sail }))]),
        section('rig', [row('r3', field('code', { visible: sail }))]),
      ),
      page('b', section('care', [row('r4', field('notes', { visible: sail }))])),
    ],
    arrangement: 'tabs' as const,
  };

  it('in its row, its row in the section, the section on its page, the page among the tabs', () => {
    const { store } = shown(content, { propulsion: 'diesel' });
    expect([node('mastCell'), node('r2'), node('rig')]).toEqual([null, null, null]);
    expect(node('nameCell')!.style.gridColumn).toBe('span 12');
    expect(screen.getAllByRole('tab').map((tab) => tab.textContent)).toEqual(['Page a']);
    store.set('propulsion', 'sail');
    expect(node('nameCell')!.style.gridColumn).toBe('span 6');
    expect([...node('a')!.querySelectorAll('.bt-row')].map((each) => (each as HTMLElement).dataset['node'])).toEqual(['r1', 'r2', 'r3']);
    expect(screen.getAllByRole('tab')).toHaveLength(2);
  });

  it('and comes back where it was, with what was typed, while the focus stays in what stayed', async () => {
    const { store } = shown(content, { propulsion: 'sail' });
    await userEvent.type(control('mast'), '12');
    const name = control('name');
    name.focus();
    store.set('propulsion', 'diesel');
    expect(document.activeElement).toBe(name);
    store.set('propulsion', 'sail');
    expect(document.activeElement).toBe(name);
    expect(control('mast').value).toBe('12');
    expect([...node('r1')!.children].map((each) => (each as HTMLElement).dataset['node'])).toEqual(['nameCell', 'mastCell']);
  });
});

describe('another version of the form', () => {
  const before = { pages: [page('a', section('identity', [row('r1', field('name'), field('code'))]))] };

  it('keeps the elements of what is the same in it, and the place of whoever types', () => {
    const { store } = shown(before, { name: 'Dunlin' });
    const [name, code] = [control('name'), control('code')];
    name.focus();
    name.setSelectionRange(2, 4);
    store.replaceForm(
      formOf({
        pages: [
          page(
            'a',
            section('identity', [row('r0', field('length')), row('r1', field('name'), field('code', { label: 'Code of the yard' }))]),
          ),
        ],
      }),
    );
    expect(control('name')).toBe(name);
    expect([document.activeElement, name.selectionStart, name.selectionEnd]).toEqual([name, 2, 4]);
    expect(control('code')).not.toBe(code);
    expect(screen.getByLabelText('Code of the yard')).toBe(control('code'));
  });

  it('takes the focus along where what one types in is made anew', () => {
    const { store } = shown(before, { name: 'Dunlin' });
    control('name').focus();
    control('name').setSelectionRange(3, 3);
    store.replaceForm(
      formOf({ pages: [page('a', section('other', [row('elsewhere', field('name', { help: 'As painted on the stern' }))]))] }),
    );
    const again = control('name');
    expect([document.activeElement, again.value, again.selectionStart]).toEqual([again, 'Dunlin', 3]);
    expect(again.getAttribute('aria-describedby')).toBe(screen.getByText('As painted on the stern').id);
  });

  it('is drawn from another store in the same place', () => {
    const { drawing, store } = shown(before, { name: 'Dunlin' });
    const name = control('name');
    drawing.use(new FormStore(formOf(before), { name: 'Curlew' }, {}, around));
    expect([control('name'), name.value]).toEqual([name, 'Curlew']);
    store.set('name', 'nobody sees this');
    expect(name.value).toBe('Curlew');
  });
});

it('makes an editor only once a field is touched, and takes in what was typed at once', () => {
  const { store, drawing } = shown({ pages: [page('a', section('s', [row('r', field('name'), field('length', { editor: 'number' }))]))] });
  expect(drawing.asleep.size).toBe(2);
  fireEvent.input(control('length'), { target: { value: '9,5' } });
  expect(store.get('length')).toBe(9.5);
  expect(drawing.asleep.size).toBe(1);
  store.set('name', 'Dunlin');
  expect(control('name').value).toBe('Dunlin');
  expect(drawing.asleep.size).toBe(0);
});

describe('what stands against saving', () => {
  const content = {
    arrangement: 'tabs' as const,
    pages: [
      page('a', section('s', [row('r', field('name', { required: true }))])),
      page('b', section('t', [row('q', field('code', { required: true }))])),
    ],
  };

  it('is said at its field, at its tab and in a summary that leads there', () => {
    const { store } = shown(content);
    const lead = vi.fn();
    const summary = new ErrorSummary(store, lead);
    document.body.append(summary.element);
    expect(store.validate()).toBe(false);
    const name = screen.getByRole('textbox', { name: /The name/ });
    expect([name.getAttribute('aria-invalid'), document.getElementById(name.getAttribute('aria-describedby')!)!.textContent]).toEqual([
      'true',
      'The name is required.',
    ]);
    expect(screen.getAllByRole('tab').map((tab) => tab.querySelector('.bt-tab-alert') !== null)).toEqual([true, true]);
    fireEvent.click(within(screen.getByRole('alert')).getByRole('button', { name: 'The code is required.' }));
    expect(lead).toHaveBeenCalledWith('code', 'code');
    fireEvent.input(name, { target: { value: 'Dunlin' } });
    expect([name.getAttribute('aria-invalid'), name.getAttribute('aria-describedby')]).toEqual([null, null]);
    expect(within(screen.getByRole('alert')).getAllByRole('button')).toHaveLength(1);
    summary.dispose();
  });

  it('is announced once, not with every keystroke', () => {
    const { store } = shown(content);
    const summary = new ErrorSummary(store, () => undefined);
    store.validate();
    const said = summary.element.firstChild;
    store.set('notes', 'something else');
    expect(summary.element.firstChild).toBe(said);
  });
});

describe('marks', () => {
  const content = { pages: [page('a', section('s', [row('r', field('name', { required: true }), field('code'))]))] };
  it('what is required, or what is optional, or neither', () => {
    shown(content, {}, { marks: 'required' });
    expect([document.querySelectorAll('.bt-required').length, document.querySelectorAll('.bt-optional').length]).toEqual([1, 0]);
    document.body.replaceChildren();
    shown(content, {}, { marks: 'optional' });
    expect(node('code')!.querySelector('.bt-label')!.textContent).toBe('The code (optional)');
  });
});
