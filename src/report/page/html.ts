import type { ReportPart } from '../files/report.js';
import { pageData } from './data.js';
import { script } from './script.js';
import { style } from './style.js';

/** One page with everything in it: nothing is loaded from anywhere, and no payload can put markup or code into it. */
export function htmlReport(parts: readonly ReportPart[]): string {
  // Data can end neither its element nor a line of script.
  const data = JSON.stringify(pageData(parts)).replace(
    /[<>&\u2028\u2029]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<title>Skevo: what came back</title>
<style>${style}</style>
</head>
<body>
<header>
<h1>What came back</h1>
<select id="part" aria-label="contract"></select>
<p id="verdict" class="verdict" role="status"></p>
<span class="spring"></span>
<button id="theme" class="theme">Light or dark</button>
</header>
<main>
<ul id="languages" class="languages" aria-label="languages"></ul>
<form class="filters" onsubmit="return false">
<input id="place" type="search" placeholder="a place or type" aria-label="only places or types with this text">
<select id="kind" aria-label="kind of finding"></select>
<select id="language" aria-label="language"></select>
<select id="status" aria-label="result">
<option value="">any result</option>
<option value="loss">with losses</option>
<option value="note">with notes</option>
<option value="unproven">unproven</option>
<option value="clean">clean</option>
</select>
</form>
<div class="frame" id="frame" tabindex="-1">
<table aria-label="fields by languages"><thead id="head"></thead><tbody id="rows"></tbody></table>
<div class="more" id="more"></div>
</div>
<p class="legend"><span><b class="good">✓</b> nothing lost</span><span><b class="bad">✗ 3</b> losses</span>
<span><b class="warn">~ 3</b> notes: another spelling of the same value</span><span><b class="warn">?</b> unproven: no payload has it</span>
<span>– not run</span></p>
<section id="drift" hidden><h2>Drift: the payloads say what the schema does not</h2><div class="list" id="drift-list"></div></section>
<section id="unproven" hidden><h2>Unproven: the types allow it, and no payload shows it</h2><div class="list" id="unproven-list"></div></section>
</main>
<aside id="panel" role="dialog" aria-labelledby="panel-title" hidden></aside>
<footer>Made by Skevo. Arrow keys move between cells, Enter opens one, Escape closes it.</footer>
<script type="application/json" id="data">${data}</script>
<script>${script}</script>
</body>
</html>
`;
}
