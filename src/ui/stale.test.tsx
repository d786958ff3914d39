import { watchForStaleParts } from './stale';

/** What the page last loaded itself anew for; jsdom cannot navigate. */
const last = () => sessionStorage.getItem('chromatheca/reloaded-for');

test('a part that is gone loads the page anew, but never over what is in this page alone', () => {
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
  let stored = false;
  watchForStaleParts(() => stored);
  // told on the way down to the script, which stands in the page
  const tell = (path: string) => {
    const script = document.createElement('script');
    script.type = 'text/plain';
    script.src = path;
    document.head.append(script);
    script.dispatchEvent(new Event('error'));
    script.remove();
  };
  tell('/mix-1.js');
  expect(last()).toBeNull();
  stored = true;
  tell('/mix-1.js');
  expect(last()).toBe('/mix-1.js');
  // another element that fails is no part
  const picture = document.createElement('img');
  document.head.append(picture);
  picture.dispatchEvent(new Event('error'));
  expect(last()).toBe('/mix-1.js');
});
