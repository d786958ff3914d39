import { type Down, meant } from './tap';

const drawn = (html: string): ((id: string) => Element) => {
  document.body.innerHTML = html;
  return (id) => document.getElementById(id)!;
};
const down = (key: Element | null): Down => ({ key, x: 100, y: 100 });
const up = (target: Element, x = 100, y = 100) => ({ target, clientX: x, clientY: y });

describe('a tap on a page that moves', () => {
  const page =
    '<main id="page"><button id="a">Keep</button><div role="radio" id="b">Wed <i id="in">24</i></div></main>';

  it('presses what the finger came down on, not what slid under it', () => {
    const at = drawn(page);
    expect(meant(down(at('a')), up(at('in')))).toBe(at('a'));
    expect(meant(down(at('b')), up(at('page')))).toBe(at('b'));
  });

  it('presses nothing where the finger came down beside every key', () => {
    const at = drawn(page);
    expect(meant(down(null), up(at('a')))).toBe('nothing');
    expect(meant(down(null), up(at('page')))).toBeUndefined();
  });

  it('leaves alone a tap on what has not moved, what lies within one another, and a stroke', () => {
    const at = drawn(`${page}<a id="row" href="#x">Lamp <button id="x">off</button></a>`);
    expect(meant(down(at('b')), up(at('in')))).toBeUndefined();
    expect(meant(down(at('row')), up(at('x')))).toBeUndefined();
    expect(meant(down(at('a')), up(at('in'), 100, 120))).toBeUndefined();
  });

  it('presses nothing in place of a key that is gone, but the same key drawn anew', () => {
    const at = drawn(page);
    const gone = at('a');
    gone.remove();
    expect(meant(down(gone), up(at('in')))).toBe('nothing');
    expect(meant(down(gone), up(at('page')))).toBeUndefined();
    const again = document.createElement('button');
    again.textContent = 'Keep';
    at('page').append(again);
    expect(meant(down(gone), up(again))).toBeUndefined();
  });
});
