/** The look of the page. Colours meet a contrast of 4.5 to 1 on their ground in both themes; none is the only sign. */
export const style = `
:root {
  color-scheme: light dark;
  --ground: #f6f8f8; --sheet: #ffffff; --ink: #16262b; --faint: #5a6b70; --line: #d5dfe1; --shade: #edf2f2;
  --sea: #0b6374; --good: #1d6b45; --bad: #b3261e; --warn: #8a5300; --bad-ground: #fdeceb; --warn-ground: #fff4e0;
  --bar: #4f9aa8; --null: #c98a2b;
}
@media (prefers-color-scheme: dark) {
  :root:not([data-theme="light"]) {
    --ground: #0f181b; --sheet: #162226; --ink: #e4eef0; --faint: #9db0b5; --line: #2c3d42; --shade: #1c2b30;
    --sea: #6fc6d6; --good: #6fcf9a; --bad: #ff9d94; --warn: #f0bd6a; --bad-ground: #3a1f1e; --warn-ground: #382b14;
    --bar: #3f8796; --null: #c98a2b;
  }
}
:root[data-theme="dark"] {
  color-scheme: dark;
  --ground: #0f181b; --sheet: #162226; --ink: #e4eef0; --faint: #9db0b5; --line: #2c3d42; --shade: #1c2b30;
  --sea: #6fc6d6; --good: #6fcf9a; --bad: #ff9d94; --warn: #f0bd6a; --bad-ground: #3a1f1e; --warn-ground: #382b14;
  --bar: #3f8796; --null: #c98a2b;
}
:root[data-theme="light"] { color-scheme: light; }
* { box-sizing: border-box; }
body { margin: 0; background: var(--ground); color: var(--ink); font: 15px/1.45 system-ui, sans-serif; }
code, pre, .place { font-family: ui-monospace, "DejaVu Sans Mono", monospace; font-size: 13px; unicode-bidi: isolate; }
header, main { max-width: 1360px; margin: 0 auto; padding: 0 24px; }
header { display: flex; flex-wrap: wrap; gap: 8px 20px; align-items: baseline; padding-top: 22px; }
h1 { font-size: 22px; margin: 0; }
h2 { font-size: 16px; margin: 26px 0 8px; }
.verdict { font-size: 16px; margin: 0; }
.good { color: var(--good); } .bad { color: var(--bad); } .warn { color: var(--warn); } .faint { color: var(--faint); }
.spring { flex: 1; }
button, select, input { font: inherit; color: inherit; background: var(--sheet); border: 1px solid var(--line);
  border-radius: 6px; padding: 4px 9px; }
button { cursor: pointer; }
button:hover { border-color: var(--sea); }
:focus-visible { outline: 2px solid var(--sea); outline-offset: 1px; }
.languages { display: flex; flex-wrap: wrap; gap: 8px; list-style: none; padding: 0; margin: 14px 0 0; }
.languages li { background: var(--sheet); border: 1px solid var(--line); border-radius: 8px; padding: 7px 12px; }
.languages b { display: block; }
.languages .lost { border-color: var(--bad); background: var(--bad-ground); }
.filters { display: flex; flex-wrap: wrap; gap: 8px 12px; align-items: center; margin: 18px 0 8px; }
.filters label { display: flex; gap: 6px; align-items: center; color: var(--faint); }
select { max-width: 240px; }
.filters input[type="search"] { width: 220px; color: var(--ink); }
.frame { background: var(--sheet); border: 1px solid var(--line); border-radius: 8px; overflow: auto; max-height: 78vh; }
table { border-collapse: separate; border-spacing: 0; width: 100%; }
th, td { text-align: left; padding: 5px 8px; border-bottom: 1px solid var(--line); white-space: nowrap; }
thead th { position: sticky; top: 0; background: var(--shade); z-index: 2; font-weight: 600; font-size: 12.5px; }
td.faint { font-size: 13px; }
th.name, td.name { position: sticky; left: 0; background: var(--sheet); z-index: 1; max-width: 380px; overflow: hidden;
  text-overflow: ellipsis; }
thead th.name { background: var(--shade); z-index: 3; }
th.cell, td.cell { text-align: center; padding: 2px 3px; }
tr.quiet td.name { color: var(--faint); }
td.cell button { min-width: 30px; border-color: transparent; background: transparent; padding: 2px 4px; }
td.cell button:hover { border-color: var(--sea); }
td.cell .loss { color: var(--bad); background: var(--bad-ground); font-weight: 700; }
td.cell .note { color: var(--warn); background: var(--warn-ground); }
td.cell .clean { color: var(--good); } td.cell .unproven { color: var(--warn); } td.cell .absent { color: var(--faint); }
.bar { display: inline-block; position: relative; width: 58px; height: 10px; border-radius: 5px; background: var(--shade);
  border: 1px solid var(--line); vertical-align: middle; overflow: hidden; }
.bar i { position: absolute; inset: 0 auto 0 0; background: var(--bar); }
.bar i.null { background: var(--null); }
.share { display: inline-block; width: 38px; font-size: 12px; color: var(--faint); text-align: right; }
.legend { display: flex; flex-wrap: wrap; gap: 4px 18px; font-size: 13px; color: var(--faint); margin: 8px 2px 0; }
aside { position: fixed; inset: 0 0 0 auto; width: min(640px, 96vw); background: var(--sheet); border-left: 1px solid var(--line);
  box-shadow: -8px 0 24px rgb(0 0 0 / 18%); padding: 18px 22px 40px; overflow: auto; z-index: 9; }
aside[hidden] { display: none; }
aside h2 { margin-top: 0; padding-right: 80px; overflow-wrap: anywhere; }
aside .close { position: absolute; top: 14px; right: 16px; }
article { border-top: 1px solid var(--line); padding: 10px 0; }
article h3 { margin: 0 0 4px; font-size: 15px; }
article p { margin: 3px 0; overflow-wrap: anywhere; }
pre { background: var(--shade); border: 1px solid var(--line); border-radius: 6px; padding: 8px 10px; overflow-x: auto; margin: 6px 0; }
pre mark { background: var(--warn-ground); color: inherit; display: inline-block; min-width: 100%; }
pre .number { color: var(--faint); user-select: none; }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 12px; margin: 6px 0; }
dt { color: var(--faint); } dd { margin: 0; overflow-wrap: anywhere; }
.list { background: var(--sheet); border: 1px solid var(--line); border-radius: 8px; padding: 4px 16px; }
.list p { margin: 8px 0; }
.more { padding: 10px; color: var(--faint); text-align: center; }
footer { max-width: 1360px; margin: 0 auto; padding: 18px 24px 40px; color: var(--faint); font-size: 13px; }
@media print {
  :root, :root[data-theme] { --ground: #fff; --sheet: #fff; --ink: #000; --faint: #444; --line: #bbb; --shade: #f1f1f1;
    --good: #1d6b45; --bad: #b3261e; --warn: #8a5300; }
  .filters, aside, .theme, .more { display: none !important; }
  .frame { overflow: visible; max-height: none; border: 0; }
  thead th, th.name, td.name { position: static; }
  tr { break-inside: avoid; }
  body { font-size: 11px; }
}
`;
