/**
 * What makes the page work, as it stands in it. Rows are added as they come into view, so that thousands cost nothing
 * until then; texts are only ever set as text, never as markup.
 */
export const script = String.raw`
'use strict';
const data = JSON.parse(document.getElementById('data').textContent);
const byId = (id) => document.getElementById(id);
const step = 150;
let part = data.parts[0];
let rows = [];
let shown = 0;
let opener = null;

function make(tag, attributes, ...children) {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes || {})) {
    if (value === undefined || value === false) continue;
    if (name === 'class') element.className = value;
    else element.setAttribute(name, value === true ? '' : value);
  }
  for (const child of children) if (child !== undefined) element.append(child);
  return element;
}

function plural(count, word, many) {
  return count + ' ' + (count === 1 ? word : many || word + 's');
}

/** Findings by field and language. */
function index() {
  part.cells = new Map();
  part.findings.forEach((finding) => {
    const key = finding.field + ' ' + finding.language;
    if (!part.cells.has(key)) part.cells.set(key, []);
    part.cells.get(key).push(finding);
  });
}

function statusOf(field, language) {
  const { state } = part.languages[language];
  if (state !== 'checked') return 'absent';
  const found = part.cells.get(field + ' ' + language) || [];
  if (found.some((each) => each.severity === 'loss')) return 'loss';
  if (found.length > 0) return 'note';
  return field >= 0 && part.fields[field].present === 0 ? 'unproven' : 'clean';
}

const signs = { clean: '✓', unproven: '?', absent: '–' };
const words = { clean: 'nothing lost', unproven: 'no payload has it', absent: 'not run', loss: 'loss', note: 'note' };

function chosen() {
  return {
    text: byId('place').value.toLowerCase(),
    kind: byId('kind').value,
    language: byId('language').value,
    status: byId('status').value,
  };
}

function columns() {
  const { language } = chosen();
  return part.languages.map((_, i) => i).filter((i) => language === '' || i === Number(language));
}

function matches(field) {
  const { text, kind, status } = chosen();
  const place = field < 0 ? '(payload)' : part.fields[field].place;
  const record = field < 0 ? '' : part.fields[field].record;
  if (text !== '' && !place.toLowerCase().includes(text) && !record.toLowerCase().includes(text)) return false;
  const here = columns();
  if (kind !== '' && !here.some((i) => (part.cells.get(field + ' ' + i) || []).some((each) => each.kind === kind)))
    return false;
  return status === '' || here.some((i) => statusOf(field, i) === status) ||
    (status === 'unproven' && field >= 0 && part.fields[field].unproven.length > 0);
}

function share(value, total, kind) {
  const fraction = total === 0 ? 0 : value / total;
  const bar = make('span', { class: 'bar', role: 'img', 'aria-label': value + ' of ' + total },
    make('i', { class: kind }));
  bar.firstChild.style.width = (fraction * 100).toFixed(1) + '%';
  const percent = total === 0 ? '' : fraction > 0 && fraction < 0.01 ? '<1%' : Math.floor(fraction * 100) + '%';
  return make('td', { title: value + ' of ' + total }, bar, make('span', { class: 'share' }, percent));
}

function cell(field, language) {
  const status = statusOf(field, language);
  const found = part.cells.get(field + ' ' + language) || [];
  const count = found.reduce((sum, each) => sum + each.count, 0);
  const { language: name, style } = part.languages[language];
  const place = field < 0 ? 'the payload' : part.fields[field].place;
  const button = make('button', {
    class: status,
    'aria-label': place + ', ' + name + ' ' + style + ': ' + (count > 0 ? count + ' ' : '') + words[status],
    'data-field': field,
    'data-language': language,
  }, signs[status] || (status === 'loss' ? '✗ ' : '~ ') + count);
  button.addEventListener('click', () => open(field, language, button));
  return make('td', { class: 'cell' }, button);
}

function row(field) {
  const own = field < 0 ? undefined : part.fields[field];
  const total = own ? own.present + own.absent : 0;
  return make('tr', { class: own && own.present === 0 ? 'quiet' : '' },
    make('td', { class: 'name place', title: own ? own.place + '  (' + own.record + ')' : '' }, own ? own.place : '(payload)'),
    make('td', { class: 'faint' }, own ? own.state : ''),
    own ? share(own.present, total, '') : make('td'),
    own && (own.nulls > 0 || own.state.includes('nullable')) ? share(own.nulls, own.present, 'null') : make('td'),
    ...columns().map((language) => cell(field, language)));
}

function addRows(count) {
  const body = byId('rows');
  const fragment = document.createDocumentFragment();
  for (const field of rows.slice(shown, shown + count)) fragment.append(row(field));
  shown = Math.min(rows.length, shown + count);
  body.append(fragment);
  byId('more').textContent = shown < rows.length ? (rows.length - shown) + ' more below' : plural(rows.length, 'field');
}

function draw() {
  const all = part.fields.map((_, i) => i);
  if (part.languages.some((_, i) => part.cells.has('-1 ' + i))) all.unshift(-1);
  rows = all.filter(matches);
  shown = 0;
  byId('rows').replaceChildren();
  const head = make('tr', {},
    ...['place', 'state', 'present', 'null'].map((title, i) => make('th', { scope: 'col', class: i === 0 ? 'name' : '' }, title)),
    ...columns().map((i) => make('th', { scope: 'col', class: 'cell', title: part.languages[i].style }, part.languages[i].language)));
  byId('head').replaceChildren(head);
  addRows(step);
}

function excerpt(example) {
  if (!example.lines) return undefined;
  const pre = make('pre', { 'aria-label': 'the payload' });
  example.lines.forEach((line, i) => {
    const number = example.from + i;
    const content = [make('span', { class: 'number' }, String(number).padStart(5) + '  '), line];
    pre.append(number === example.line ? make('mark', {}, ...content) : make('span', {}, ...content), '\n');
  });
  return pre;
}

function described(finding) {
  const name = part.languages[finding.language];
  const article = make('article', {},
    make('h3', {}, make('span', { class: finding.severity === 'loss' ? 'bad' : 'warn' }, finding.kind), ' ',
      make('span', { class: 'faint' }, name.language + ' ' + name.style + (finding.count > 1 ? ', ' + finding.count + ' times' : ''))),
    make('p', {}, finding.cause));
  for (const example of finding.examples) {
    const list = make('dl', {},
      make('dt', {}, 'at'), make('dd', {}, make('code', {}, example.file + ':' + example.line + ':' + example.column)));
    if (example.pointer) list.append(make('dt', {}, 'pointer'), make('dd', {}, make('code', {}, example.pointer)));
    if (finding.kind !== 'refused' && finding.kind !== 'crashed')
      list.append(
        make('dt', {}, 'before'), make('dd', {}, make('code', {}, example.before === undefined ? 'nothing' : example.before)),
        make('dt', {}, 'after'), make('dd', {}, make('code', {}, example.after === undefined ? 'nothing' : example.after)));
    article.append(list);
    const lines = excerpt(example);
    if (lines) article.append(lines);
  }
  if (finding.code) {
    article.append(make('p', { class: 'faint' }, 'generated: ' + finding.code.path + ':' + finding.code.line),
      make('pre', { 'aria-label': 'the generated code' }, finding.code.lines.join('\n')));
  }
  return article;
}

function open(field, language, button) {
  opener = button;
  const panel = byId('panel');
  const own = field < 0 ? undefined : part.fields[field];
  const found = part.cells.get(field + ' ' + language) || [];
  const name = part.languages[language];
  const title = make('h2', { id: 'panel-title' }, (own ? own.place : 'the payload') + ' in ' + name.language);
  const close = make('button', { class: 'close' }, 'Close');
  close.addEventListener('click', shut);
  panel.replaceChildren(close, title);
  if (own) {
    panel.append(make('p', { class: 'faint' }, own.record + ', ' + own.state + '; present in ' + own.present + ' of ' +
      (own.present + own.absent) + ', null in ' + own.nulls));
    for (const state of own.unproven) panel.append(make('p', { class: 'warn' }, 'unproven: ' + state));
  }
  if (name.state !== 'checked') panel.append(make('pre', {}, name.state + ': ' + name.reason));
  else if (found.length === 0)
    panel.append(make('p', { class: own && own.present === 0 ? 'warn' : 'good' },
      own && own.present === 0 ? 'No payload has it, so nothing shows that it survives.' : 'Every value came back as it was.'));
  panel.append(...found.map(described));
  panel.hidden = false;
  close.focus();
}

function shut() {
  byId('panel').hidden = true;
  if (opener && opener.isConnected) opener.focus();
}

function summary() {
  const losses = part.languages.reduce((sum, each) => sum + each.losses, 0);
  const checked = part.languages.filter((each) => each.state === 'checked').length;
  const failed = part.languages.filter((each) => each.state === 'failed').length;
  const verdict = byId('verdict');
  verdict.className = 'verdict ' + (losses + failed > 0 ? 'bad' : checked === 0 ? 'warn' : 'good');
  verdict.textContent = plural(part.payloads, 'payload') + ' through ' + plural(checked, 'language') + ': ' +
    (losses > 0 ? plural(losses, 'loss', 'losses') : checked === 0 ? 'nothing was checked' : 'nothing lost') +
    (failed > 0 ? ', ' + failed + ' not built' : '');
  byId('languages').replaceChildren(...part.languages.map((each) => {
    const text = each.state === 'checked'
      ? each.losses > 0 ? plural(each.losses, 'loss', 'losses') : 'nothing lost'
      : each.state === 'failed' ? 'not built' : 'not run';
    const tone = each.state === 'not-run' ? 'warn' : each.losses > 0 || each.state === 'failed' ? 'bad' : 'good';
    return make('li', { class: tone === 'bad' ? 'lost' : '', title: each.reason },
      make('b', {}, each.language + ' ', make('span', { class: 'faint' }, each.style)),
      make('span', { class: tone }, text),
      make('span', { class: 'faint' }, each.state === 'checked' ? ', ' + each.returned + ' of ' + part.payloads + ' back' : ''));
  }));
  const options = (id, title, values) => byId(id).replaceChildren(make('option', { value: '' }, title),
    ...values.map(([value, text]) => make('option', { value }, text)));
  options('kind', 'any kind', [...new Set(part.findings.map((each) => each.kind))].sort().map((kind) => [kind, kind]));
  options('language', 'all languages', part.languages.map((each, i) => [String(i), each.language + ' ' + each.style]));
  const list = (id, items, text) => {
    byId(id).hidden = items.length === 0;
    byId(id + '-list').replaceChildren(...items.slice(0, 500).map(text));
  };
  list('drift', part.drift, (each) => make('p', {}, make('b', { class: 'warn' }, each.kind), ' ',
    make('code', {}, each.place), ' ', each.was + ' → ' + each.now, make('span', { class: 'faint' }, ' (' + each.because + ')')));
  list('unproven', part.unproven, (each) => make('p', {}, make('code', {}, each.pointer || '(payload)'), ' ',
    make('span', { class: 'faint' }, each.state)));
}

function show(i) {
  part = data.parts[i];
  index();
  summary();
  draw();
}

for (const id of ['place', 'kind', 'language', 'status']) byId(id).addEventListener('input', draw);
byId('part').replaceChildren(...data.parts.map((each, i) => make('option', { value: String(i) }, each.name)));
byId('part').hidden = data.parts.length < 2;
byId('part').addEventListener('input', () => show(Number(byId('part').value)));
byId('theme').addEventListener('click', () => {
  const root = document.documentElement;
  const dark = root.dataset.theme ? root.dataset.theme === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  root.dataset.theme = dark ? 'light' : 'dark';
});
document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape' && !byId('panel').hidden) return shut();
  const at = document.activeElement;
  if (!at || !at.dataset || at.dataset.field === undefined) return;
  const moves = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };
  const move = moves[event.key];
  if (!move) return;
  event.preventDefault();
  const line = at.closest('tr');
  const cells = [...line.querySelectorAll('button')];
  const next = move[0] === 0 ? line : move[0] < 0 ? line.previousElementSibling : line.nextElementSibling;
  const target = next && next.querySelectorAll('button')[cells.indexOf(at) + move[1]];
  if (target) target.focus();
});
new IntersectionObserver((entries) => {
  if (entries.some((each) => each.isIntersecting) && shown < rows.length) addRows(step);
}, { root: byId('frame'), rootMargin: '400px' }).observe(byId('more'));
addEventListener('beforeprint', () => addRows(rows.length));
show(0);
`;
