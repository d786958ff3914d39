import { fireEvent, render, screen } from '@testing-library/react';
import { Text } from 'react-native';

import { chartSvg } from './chartFile';
import { TakeAlong } from './TakeAlong';

const COLOURS = { paper: '#f5efe3', ink: '#201c16' };
const CHART =
  '<div><svg viewBox="0 0 10 5"><line x1="0" y1="0" x2="10" y2="5" stroke="#000"/><svg><text>twice</text></svg></svg></div>';
const boxOf = (html: string): Element => {
  const box = document.createElement('div');
  box.innerHTML = html;
  return box;
};
const read = (text: string): Document => new DOMParser().parseFromString(text, 'image/svg+xml');

test('what one sets a chart with does not come along', () => {
  const html = `${CHART}<div data-print="hide"><svg><circle r="9"/></svg></div>`;
  const { text } = chartSvg(boxOf(html), 'Light', COLOURS)!;
  expect(text).toContain('<line');
  expect(text).not.toContain('<circle');
  // though all of it may be left out of a printed page
  const page = boxOf(`<div data-print="hide"><section>${CHART}</section></div>`);
  expect(chartSvg(page.querySelector('section')!, 'Light', COLOURS)!.text).toContain('<line');
});

test('a chart comes as one well-formed drawing with its caption; what lies within a drawing comes once', () => {
  const { text, width, height } = chartSvg(
    boxOf(CHART),
    'Tips & "body" < 3 × what they are used to',
    COLOURS,
  )!;
  const doc = read(text);
  expect(doc.querySelector('parsererror')).toBeNull();
  expect(doc.documentElement.getAttribute('viewBox')).toBe(`0 0 ${width} ${height}`);
  expect(doc.querySelectorAll('line')).toHaveLength(1);
  expect(text.match(/twice/g)).toHaveLength(1);
  // a narrow chart breaks its caption into lines, and none of it is lost
  const told = [...doc.documentElement.children]
    .filter((e) => e.tagName === 'text')
    .map((e) => e.textContent);
  expect(told.length).toBeGreaterThan(1);
  expect(told.join(' ')).toBe('Tips & "body" < 3 × what they are used to');
  expect(chartSvg(boxOf('<p>no drawing</p>'), '', COLOURS)).toBeNull();
});

test('the keys come when they are asked for; numbers go out as they are made; what cannot be drawn is said', async () => {
  const kept: string[] = [];
  globalThis.URL.createObjectURL = () => 'blob:x';
  globalThis.URL.revokeObjectURL = () => undefined;
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    kept.push(this.download);
  });
  render(
    <TakeAlong name="steps" caption="Steps" csv={async () => 'a,b\r\n'}>
      <Text>no drawing here</Text>
    </TakeAlong>,
  );
  expect(screen.queryByRole('button', { name: 'steps as SVG' })).toBeNull();
  fireEvent.click(screen.getByTestId('take-steps'));
  fireEvent.click(screen.getByRole('button', { name: 'Numbers of steps as CSV' }));
  await Promise.resolve();
  expect(kept).toEqual(['steps.csv']);
  fireEvent.click(screen.getByRole('button', { name: 'steps as SVG' }));
  expect((await screen.findByRole('alert')).textContent).toBe('The browser makes no picture of it.');
  expect(kept).toEqual(['steps.csv']);
});
