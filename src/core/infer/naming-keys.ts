/** Last words of keys that name, count or point at things: however few of their values were seen, they are no set. */
const naming = new Set(
  `id ids uuid guid key name names title label text note comment description summary message body ref reference href url
  uri path file filename folder directory email phone address street town region zip postcode code number no sku token
  cursor hash sha commit etag digest secret signature version date time at by from to station pier place city country
  currency language locale timezone user username login handle nickname surname author owner creator assignee company
  organization organisation project repository repo branch topic slug domain host hostname ip`.split(/\s+/),
);

/** Whether the values of a key name things, by the last word of the key. */
export function isName(lastWord: string): boolean {
  return naming.has(lastWord);
}
