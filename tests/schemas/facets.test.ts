import { describe, expect, test } from 'vitest';
import { skevo, workspace, addFiles } from '../support.js';

const schema = (base: string, facets: string) => `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">
  <xs:element name="berth"><xs:complexType><xs:sequence><xs:element name="v"><xs:simpleType>
    <xs:restriction base="xs:${base}">${facets}</xs:restriction>
  </xs:simpleType></xs:element></xs:sequence></xs:complexType></xs:element>
</xs:schema>`;

describe('facets of XML Schema', () => {
  test.each<[string, string, string, string, string]>([
    ['at least', 'int', '<xs:minInclusive value="+02"/>', '2', '1'],
    ['at most', 'decimal', '<xs:maxInclusive value="2.50"/>', '2.5', '2.51'],
    ['more than', 'int', '<xs:minExclusive value="2"/>', '3', '2'],
    ['less than', 'double', '<xs:maxExclusive value="-.5"/>', '-0.6', '-0.5'],
    ['letters', 'string', '<xs:minLength value="2"/><xs:maxLength value="3"/>', '⛴️a', 'abcd'],
    ['exactly as many letters', 'token', '<xs:length value="2"/>', 'ab', 'abc'],
    ['a pattern of the whole text', 'string', '<xs:pattern value="[A-Z]\\d+"/>', 'N12', 'xN12'],
    ['one of several patterns', 'string', '<xs:pattern value="a|b"/><xs:pattern value="cd"/>', 'cd', 'ad'],
    ['a word', 'NMTOKEN', '<xs:enumeration value="north"/><xs:enumeration value="south"/>', 'south', 'west'],
  ])('%s', (_, base, facets, right, wrong) => {
    const folder = workspace({ 'berth.xsd': schema(base, facets) });
    for (const [value, code] of [
      [right, 0],
      [wrong, 1],
    ] as const) {
      addFiles(folder, { 'berth.xml': `<berth><v>${value}</v></berth>` });
      const { code: ended } = skevo(['validate', 'berth.xsd', 'berth.xml'], { cwd: folder });
      expect([value, ended]).toEqual([value, code]);
    }
  });

  test.each([
    ['string', 'pattern', '\\i\\c*'],
    ['string', 'pattern', '[a-z-[aeiou]]+'],
    ['decimal', 'fractionDigits', '2'],
  ])('of %s: %s %s is of XML alone, which is told', (base, facet, value) => {
    const folder = workspace({
      'berth.xsd': schema(base, `<xs:${facet} value="${value}"/>`),
      'berth.xml': '<berth><v>1.5</v></berth>',
    });
    const { code, err } = skevo(['validate', 'berth.xsd', 'berth.xml'], { cwd: folder });
    expect(code).toBe(0);
    expect(err).toMatch(new RegExp(`berth\\.xsd:3:\\d+: nothing checks what xs:${facet} says`));
  });
});
