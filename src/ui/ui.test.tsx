import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';

import { Button, StepKey, Stepper } from './Button';
import { Choice, TextField, ValueField } from './Field';
import { parseNumber } from './parseNumber';
import { readDate } from './readDate';
import { useAwake } from './awake';
import { Rail } from './Rail';
import { Sheet } from './Sheet';
import { showFields } from './shown';
import { SliderGrip } from './SliderGrip';
import { PaperProvider, usePaper } from './theme';
import { Type } from './Type';

test('numbers are read as people type them', () => {
  for (const [text, value] of [
    ['2,5', 2.5],
    ['2.5', 2.5],
    [' 1 200 ', 1200],
    ['−3', -3],
    ['.5', 0.5],
  ] as const)
    expect(parseNumber(text)).toBe(value);
  for (const text of ['', 'many', '1,2,3', '1e5', '--2', '5 %']) expect(parseNumber(text)).toBeNull();
});

function Cap() {
  const [cap, setCap] = useState(80);
  return (
    <>
      <ValueField
        label="Cap"
        value={String(cap)}
        onCommit={(text) => {
          const n = parseNumber(text);
          if (n === null || n > 100) return 'Cap: give 0 to 100 %.';
          setCap(n);
          return null;
        }}
      />
      <Type>{`cap is ${cap}`}</Type>
    </>
  );
}

test('a field keeps what it cannot take, with its error, and takes it once it is right', () => {
  render(<Cap />);
  const field = screen.getByLabelText('Cap') as HTMLInputElement;
  fireEvent.change(field, { target: { value: '140' } });
  fireEvent.blur(field);
  expect(screen.getByRole('alert').textContent).toContain('Cap: give 0 to 100 %.');
  expect(field.value).toBe('140');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByText('cap is 80')).toBeTruthy();
  fireEvent.change(field, { target: { value: '40' } });
  expect(screen.queryByRole('alert')).toBeNull();
  fireEvent.blur(field);
  expect(screen.getByText('cap is 40')).toBeTruthy();
});

test('what is half typed is taken when the page goes away and when the field does', () => {
  const { unmount } = render(<Cap />);
  fireEvent.change(screen.getByLabelText('Cap'), { target: { value: '33' } });
  act(() => void window.dispatchEvent(new Event('pagehide')));
  expect(screen.getByText('cap is 33')).toBeTruthy();
  const commit = jest.fn(() => null);
  const other = render(<ValueField label="Name" value="a" onCommit={commit} />);
  fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'b' } });
  other.unmount();
  expect(commit).toHaveBeenCalledWith('b');
  unmount();
});

test('a key steps once when pressed and repeats while held', () => {
  jest.useFakeTimers();
  const step = jest.fn();
  render(<Stepper name="Violet" onStep={step} />);
  const up = screen.getByRole('button', { name: 'Violet up' });
  fireEvent.click(up);
  expect(step.mock.calls).toEqual([[1]]);
  fireEvent.mouseDown(up);
  act(() => void jest.advanceTimersByTime(400 + 90 * 4 + 120));
  fireEvent.mouseUp(up);
  const held = step.mock.calls.length;
  expect(held).toBeGreaterThanOrEqual(4);
  act(() => void jest.advanceTimersByTime(1000));
  expect(step.mock.calls.length).toBe(held);
  jest.useRealTimers();
});

test('keys at the end of their range are off', () => {
  const step = jest.fn();
  render(<StepKey sign="+" name="Cap up" onStep={step} disabled />);
  fireEvent.click(screen.getByRole('button', { name: 'Cap up' }));
  expect(step).not.toHaveBeenCalled();
});

test('a grip answers arrows, Shift, Home, End and Enter, and stays within its range', () => {
  const change = jest.fn();
  const cross = jest.fn();
  const open = jest.fn();
  const grip = { name: 'Violet', valueText: '70 %', step: 1, left: 0, top: 0 };
  const { rerender } = render(<SliderGrip {...grip} id="v" now={70} onChange={change} />);
  const slider = () => screen.getByRole('slider', { name: 'Violet' });
  expect(slider().getAttribute('aria-valuenow')).toBe('70');
  fireEvent.keyDown(slider(), { key: 'ArrowUp' });
  fireEvent.keyDown(slider(), { key: 'ArrowDown', shiftKey: true });
  fireEvent.keyDown(slider(), { key: 'End' });
  fireEvent.keyDown(slider(), { key: 'x' });
  expect(change.mock.calls).toEqual([
    [71, 'v'],
    [60, 'v'],
    [100, 'v'],
  ]);
  rerender(<SliderGrip {...grip} now={100} onChange={change} onCross={cross} onOpen={open} />);
  fireEvent.keyDown(slider(), { key: 'ArrowRight' });
  expect(change).toHaveBeenLastCalledWith(100, undefined);
  fireEvent.keyDown(slider(), { key: 'ArrowDown', shiftKey: true });
  expect(cross).toHaveBeenCalledWith(-10);
  fireEvent.keyDown(slider(), { key: 'Enter' });
  expect(open).toHaveBeenCalledTimes(1);
});

test('choices are radio buttons; buttons have names and can be off', () => {
  const change = jest.fn();
  const press = jest.fn();
  render(
    <>
      <Choice
        label="Paper"
        value="day"
        onChange={change}
        options={[
          { value: 'day', label: 'day' },
          { value: 'night', label: 'night' },
        ]}
      />
      <Button label="Off" onPress={press} disabled />
      <TextField label="Peak" value="450" onChange={change} unit="nm" hint="from the maker" />
    </>,
  );
  expect(screen.getByRole('radio', { name: 'day' }).getAttribute('aria-checked')).toBe('true');
  fireEvent.click(screen.getByRole('radio', { name: 'night' }));
  expect(change).toHaveBeenCalledWith('night');
  fireEvent.click(screen.getByRole('button', { name: 'Off' }));
  expect(press).not.toHaveBeenCalled();
  expect(screen.getByText('from the maker')).toBeTruthy();
});

test('a sheet is closed by its key, by Escape and by a press beside it', () => {
  const close = jest.fn();
  render(
    <Sheet title="Thread" onClose={close}>
      <Type>inside</Type>
    </Sheet>,
  );
  expect(screen.getByText('inside')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  fireEvent.keyUp(document, { key: 'Escape' });
  fireEvent.click(screen.getByLabelText('Close'));
  expect(close).toHaveBeenCalledTimes(3);
});

/** Relative luminance contrast of two hex colours, WCAG 2. */
function contrast(a: string, b: string): number {
  const luminance = (hex: string) => {
    const [r, g, bl] = [1, 3, 5].map((i) => {
      const c = parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    }) as [number, number, number];
    return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
  };
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number];
  return (x + 0.05) / (y + 0.05);
}

test.each(['day', 'night'] as const)('%s paper keeps AA contrast and no saturated ink', (choice) => {
  function Probe() {
    const p = usePaper();
    for (const ink of [p.ink, p.quiet]) {
      expect(contrast(ink, p.paper)).toBeGreaterThanOrEqual(4.5);
      expect(contrast(ink, p.raised)).toBeGreaterThanOrEqual(4.5);
    }
    expect(contrast(p.strong, p.paper)).toBeGreaterThanOrEqual(3);
    for (const hex of [p.paper, p.ink, p.quiet, p.line, p.strong]) {
      const rgb = [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
      expect(Math.max(...rgb) - Math.min(...rgb)).toBeLessThanOrEqual(36);
    }
    return <Type>{p.name}</Type>;
  }
  render(
    <PaperProvider choice={choice}>
      <Probe />
    </PaperProvider>,
  );
  expect(screen.getByText(choice)).toBeTruthy();
});

test('a rail steps by keys, snaps, stays between its ends and says its value', () => {
  const change = jest.fn();
  const rail = { label: 'Depth', min: 0, max: 50, step: 5, width: 300, onChange: change };
  const { rerender } = render(<Rail {...rail} value={20} valueText="20 cm" />);
  const slider = () => screen.getByRole('slider', { name: 'Depth' });
  expect(slider().getAttribute('aria-valuetext')).toBe('20 cm');
  fireEvent.keyDown(slider(), { key: 'ArrowRight' });
  fireEvent.keyDown(slider(), { key: 'ArrowDown' });
  fireEvent.keyDown(slider(), { key: 'End' });
  fireEvent.keyDown(slider(), { key: 'ArrowLeft', shiftKey: true });
  expect(change.mock.calls.map(([v]) => v)).toEqual([25, 15, 50, 0]);
  // the grip stands where the value is
  const left = () => Number.parseFloat(slider().style.left);
  const before = left();
  rerender(<Rail {...rail} value={50} valueText="50 cm" />);
  expect(left() - before).toBeCloseTo((30 / 50) * (300 - 44), 6);
  // ends that fall together do not divide by nothing
  rerender(<Rail {...rail} min={0} max={0} value={0} valueText="0 cm" />);
  expect(Number.isFinite(left())).toBe(true);
});

test('moves of a pull are kept from the browser, which else ends their flick by the next tap; a tap is left to it', () => {
  render(
    <Rail
      label="Depth"
      value={20}
      valueText="20 cm"
      min={0}
      max={50}
      step={5}
      width={300}
      testID="rail"
      onChange={jest.fn()}
    />,
  );
  const rail = screen.getByTestId('rail');
  const changedTouches = [{ force: 1, identifier: 1, pageX: 0, pageY: 0, target: rail }];
  expect(fireEvent.touchStart(rail, { changedTouches, touches: changedTouches })).toBe(true);
  expect(fireEvent.touchMove(screen.getByRole('slider'), { changedTouches, touches: changedTouches })).toBe(
    false,
  );
  expect(fireEvent.touchEnd(rail, { changedTouches, touches: [] })).toBe(true);
});

test('the screen is kept awake while a session is read, and let go with it', async () => {
  const release = jest.fn(() => Promise.resolve());
  const request = jest.fn(() => Promise.resolve({ release }));
  Object.defineProperty(navigator, 'wakeLock', { value: { request }, configurable: true });
  const Awake = () => {
    useAwake();
    return null;
  };
  const { unmount } = render(<Awake />);
  await act(async () => undefined);
  expect(request).toHaveBeenCalledWith('screen');
  unmount();
  expect(release).toHaveBeenCalledTimes(1);
  // gone before the browser has answered: let go all the same
  const quick = render(<Awake />);
  quick.unmount();
  await act(async () => undefined);
  expect(release).toHaveBeenCalledTimes(2);
  // a browser that says no, or knows nothing of it, is no trouble
  request.mockRejectedValueOnce(new Error('low battery') as never);
  render(<Awake />).unmount();
  Object.defineProperty(navigator, 'wakeLock', { value: undefined, configurable: true });
  render(<Awake />).unmount();
  await act(async () => undefined);
});

test('a date is read as it is written here or as year-month-day; one that is none is not', () => {
  const german = ['day', 'month', 'year'] as const;
  const american = ['month', 'day', 'year'] as const;
  for (const [text, order, date] of [
    ['2026-11-28', american, '2026-11-28'],
    ['28.11.2026', german, '2026-11-28'],
    ['11/28/26', american, '2026-11-28'],
    [' 1. 2. 2027 ', german, '2027-02-01'],
    ['31.4.2026', german, null],
    ['28.11.2026', american, null],
    ['spring', german, null],
    ['12.', german, null],
  ] as const)
    expect(readDate(text, order)).toBe(date);
});

test('a date or a time is typed or picked; what is picked is taken at once', () => {
  const taken = jest.fn(() => null);
  const { container } = render(
    <>
      <ValueField label="Begins" value="2026-11-28" pick="date" onCommit={taken} testID="begins" />
      <ValueField label="From" value="08:00" pick="time" onCommit={taken} />
    </>,
  );
  const [date, time] = [...container.querySelectorAll('input[aria-hidden]')];
  fireEvent.change(date!, { target: { value: '2026-12-01' } });
  expect(taken).toHaveBeenLastCalledWith('2026-12-01');
  fireEvent.change(time!, { target: { value: '09:30' } });
  expect(taken).toHaveBeenLastCalledWith('09:30');
  const typed = screen.getByTestId('begins');
  fireEvent.change(typed, { target: { value: '2026-12-24' } });
  fireEvent.blur(typed);
  expect(taken).toHaveBeenLastCalledWith('2026-12-24');
  // the key opens the device's picker, and does nothing where there is none
  const show = jest.fn();
  Object.assign(date!, { showPicker: show });
  fireEvent.click(screen.getByRole('button', { name: 'Pick: Begins' }));
  fireEvent.click(screen.getByRole('button', { name: 'Pick: From' }));
  expect(show).toHaveBeenCalledTimes(1);
});

test('a field shows in one unit what it keeps in another; what is typed stands as it is typed until it is left', () => {
  const half = (text: string, by: number) => (parseNumber(text) === null ? text : String(Number(text) * by));
  showFields({ cm: { unit: 'span', show: (kept) => half(kept, 0.1), read: (typed) => half(typed, 10) } });
  const kept = jest.fn();
  function Field() {
    const [value, setValue] = useState('30');
    return (
      <TextField
        label="Height"
        unit="cm"
        value={value}
        onChange={(text) => (kept(text), setValue(text))}
        testID="h"
      />
    );
  }
  render(<Field />);
  const field = screen.getByTestId('h') as HTMLInputElement;
  expect(field.value).toBe('3');
  expect(screen.getByText('span')).toBeTruthy();
  for (const [typed, stored] of [
    ['4.', '4.'],
    ['4.50', '45'],
    ['high', 'high'],
  ] as const) {
    fireEvent.change(field, { target: { value: typed } });
    expect(field.value).toBe(typed);
    expect(kept).toHaveBeenLastCalledWith(typed === '4.' ? '40' : stored);
  }
  fireEvent.change(field, { target: { value: '4.50' } });
  fireEvent.blur(field);
  expect(field.value).toBe('4.5');
  showFields({});
});

test('no line ends within a figure', () => {
  const { container } = render(
    <Type>
      {'1.30 × of 250 µmol, ± 53 % of '}
      <Type kind="strong">6.0 mol a day</Type>
      {' in 11 h 30 min'}
    </Type>,
  );
  const inner = container.innerHTML.replaceAll('&nbsp;', '_');
  expect(inner).toMatch(/1\.30_× of 250_µmol, ±_53_% of /);
  expect(inner).toMatch(/6\.0_mol a day/);
  expect(inner).toMatch(/ in 11_h 30_min/);
});
