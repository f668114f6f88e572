import { describe, expect, test } from 'vitest';
import { isId, stemOf } from '../src/capture/samples.js';
import { withoutSecrets } from '../src/capture/secrets.js';

test.for([
  ['https://a:b@ferries.example/v1?page=2#top', 'https://ferries.example/v1?page=2'],
  [
    'https://ferries.example/?api_key=1&Token=2&page=3',
    'https://ferries.example/?api_key=***&Token=***&page=3',
  ],
  [
    'https://ferries.example/?ticket=1&TICKET=2&keyboard=3',
    'https://ferries.example/?ticket=***&TICKET=***&keyboard=3',
  ],
])('%s is written down as %s', ([address, written]) => {
  expect(withoutSecrets(address!, ['ticket'])).toBe(written);
});

describe('a part of a path', () => {
  test.for(['17', '1b4e28ba-2fa1-41d2-883f-0016d3cca427', 'SF-1001', 'n1', '5f3a9c0d1e2b4a6f'])(
    '%s is an id',
    (part) => {
      expect(isId(part)).toBe(true);
    },
  );
  test.for(['berths', 'v1', 'v12', 'harbour-masters'])('%s is none', (part) => {
    expect(isId(part)).toBe(false);
  });
});

test('samples are called after the last part that is no id', () => {
  expect(stemOf('https://ferries.example/v1/berths/17?x=1')).toBe('berths');
  expect(stemOf('https://ferries.example/v1/harbourMasters')).toBe('harbour-masters');
  expect(stemOf('https://ferries.example/')).toBe('response');
});
