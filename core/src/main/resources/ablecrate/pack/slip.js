'use strict';
// The page reads as well without this: it adds search, filter and sorting.
document.documentElement.classList.add('scripted');
let rows = [], texts = [];
const search = document.getElementById('search'), told = document.getElementById('told');
const buttons = [...document.querySelectorAll('.tools button[data-show]')], open = new Map();
let shown = '';
function renew() {
  // Of ten thousand lines this takes a while: only when it is first needed.
  if (!rows.length) {
    rows = [...document.querySelectorAll('tr[data-state]')];
    texts = rows.map(row => row.textContent.toLowerCase());
  }
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  let count = 0;
  rows.forEach((row, i) => {
    const fits = (!shown || row.dataset.state.split(' ').includes(shown)) && words.every(w => texts[i].includes(w));
    row.hidden = !fits;
    if (fits) count++;
  });
  const all = !shown && !words.length;
  document.querySelectorAll('details.folder').forEach(folder => {
    if (!open.has(folder)) open.set(folder, folder.open);
    folder.hidden = !folder.querySelector('tr[data-state]:not([hidden])');
    folder.open = all ? open.get(folder) : true;
  });
  told.textContent = all ? '' : count + (count === 1 ? ' line' : ' lines');
  buttons.forEach(b => b.setAttribute('aria-pressed', String(b.dataset.show === shown)));
}
search.addEventListener('input', renew);
buttons.forEach(b => b.addEventListener('click', () => { shown = b.dataset.show; renew(); }));
function value(row, column) {
  const cell = row.cells[column];
  return cell.dataset.value === undefined ? cell.textContent.trim().toLowerCase() : Number(cell.dataset.value);
}
document.querySelectorAll('th[scope=col]').forEach(head => {
  head.tabIndex = 0;
  const sort = () => {
    const down = head.getAttribute('aria-sort') === 'ascending', body = head.closest('table').tBodies[0];
    [...head.parentNode.cells].forEach(c => c.removeAttribute('aria-sort'));
    head.setAttribute('aria-sort', down ? 'descending' : 'ascending');
    const order = [...body.rows].map(row => [value(row, head.cellIndex), row]);
    order.sort((a, b) => (a[0] < b[0] ? -1 : a[0] > b[0] ? 1 : 0) * (down ? -1 : 1));
    body.append(...order.map(o => o[1]));
  };
  head.addEventListener('click', sort);
  head.addEventListener('keydown', e => { if (e.key === 'Enter' || e.key === ' ') { sort(); e.preventDefault(); } });
});
let folded = [];
addEventListener('beforeprint', () => { folded = [...document.querySelectorAll('details:not([open])')]; folded.forEach(d => { d.open = true; }); });
addEventListener('afterprint', () => folded.forEach(d => { d.open = false; }));
