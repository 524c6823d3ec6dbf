(function () {
  var root = document.documentElement, key = 'nexufix.' + root.dataset.key;
  var all = Array.prototype.slice.call(document.querySelectorAll('section')), at = 0, began = 0, spent = 0;
  function read(name) { try { return JSON.parse(localStorage.getItem(key + name)); } catch (e) { return null; } }
  function write(name, value) { try { localStorage.setItem(key + name, JSON.stringify(value)); } catch (e) { /* private windows keep nothing */ } }
  var ticks = read('.ticks') || {};
  var untold = read('.untold') || {}, telling = 0;
  document.querySelectorAll('.tick input').forEach(function (box) {
    if (box.name in ticks) box.checked = !!ticks[box.name];
    else ticks[box.name] = box.checked;
    box.addEventListener('change', function () {
      ticks[box.name] = box.checked;
      write('.ticks', ticks);
      untold[box.name] = { step: box.name, done: box.checked, at: new Date().toISOString().slice(0, 19) + 'Z' };
      write('.untold', untold);
      clearTimeout(telling);
      telling = setTimeout(tellOf, 1500);
      say();
    });
  });
  // Ticks go to the job, when there is a network.
  function tellOf() {
    var list = Object.keys(untold).map(function (k) { return untold[k]; });
    if (!('served' in root.dataset) || list.length === 0) return;
    fetch(location.pathname + '/ticks', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ ticks: list }), keepalive: true }).then(function (answer) {
      if (!answer.ok) return;
      list.forEach(function (t) { if (untold[t.step] && untold[t.step].at === t.at && untold[t.step].done === t.done) delete untold[t.step]; });
      write('.untold', untold);
    }, function () { /* later */ });
  }
  addEventListener('online', tellOf);
  addEventListener('pagehide', tellOf);
  tellOf();
  function say() {
    var done = Object.keys(ticks).filter(function (k) { return ticks[k]; }).length;
    document.getElementById('where').textContent =
      root.dataset.where.replace('{1}', at + 1).replace('{2}', all.length).replace('{3}', done);
  }
  function show(n, move) {
    at = Math.max(0, Math.min(all.length - 1, n));
    all.forEach(function (s, i) { s.classList.toggle('on', i === at); });
    document.getElementById('back').disabled = at === 0;
    document.getElementById('next').disabled = at === all.length - 1;
    write('.at', at);
    say();
    if (move) { scrollTo(0, 0); all[at].focus({ preventScroll: true }); }
  }
  root.classList.add('js');
  show(read('.at') || 0, false);
  document.getElementById('back').addEventListener('click', function () { show(at - 1, true); });
  document.getElementById('next').addEventListener('click', function () { show(at + 1, true); });
  addEventListener('keydown', function (e) {
    if (e.target.tagName === 'INPUT' || e.ctrlKey || e.altKey || e.metaKey) return;
    if (e.key === 'ArrowRight') show(at + 1, true);
    if (e.key === 'ArrowLeft') show(at - 1, true);
  });
  function units(inches) { root.classList.toggle('u-in', inches); root.classList.toggle('u-mm', !inches); write('.inches', inches); }
  if (read('.inches') !== null) units(read('.inches'));
  document.getElementById('units').addEventListener('click', function () { units(!root.classList.contains('u-in')); });
  var clock = document.getElementById('time');
  clock.addEventListener('click', function () { if (began) { spent += Date.now() - began; began = 0; } else { began = Date.now(); } tell(); });
  function tell() {
    var s = Math.floor((spent + (began ? Date.now() - began : 0)) / 1000);
    clock.textContent = Math.floor(s / 60) + ':' + ('0' + s % 60).slice(-2) + (began ? '' : spent ? ' ▸' : '');
  }
  setInterval(tell, 1000);
  document.querySelectorAll('[data-part]').forEach(function (line) {
    function light(on) {
      line.closest('section').querySelectorAll('[data-tag="' + line.dataset.part + '"]').forEach(function (x) { x.classList.toggle('lit', on); });
    }
    line.addEventListener('pointerenter', function () { light(true); });
    line.addEventListener('pointerleave', function () { light(false); });
  });
  // What is measured without a network is kept, and worked out when there is one again.
  var form = document.querySelector('form'), note = document.getElementById('kept');
  function ask(query) {
    return fetch(location.pathname + query, { cache: 'no-store' }).then(function (answer) {
      if (!answer.ok) throw answer;
      write('.asked', null);
      location.assign(location.pathname + query);
    }).catch(function () {
      write('.asked', query);
      note.hidden = false;
    });
  }
  if (form) {
    form.addEventListener('submit', function (e) {
      e.preventDefault();
      ask('?' + new URLSearchParams(new FormData(form)));
    });
    addEventListener('online', again);
    document.addEventListener('visibilitychange', again);
    var kept = read('.asked');
    if (kept) {
      new URLSearchParams(kept).forEach(function (value, name) { form.elements[name].value = value; });
      again();
    }
  }
  function again() {
    var query = read('.asked');
    if (query && !document.hidden) ask(query);
  }
  // Once opened it is there without a network: the page puts itself aside, and a worker hands it out.
  if ('served' in root.dataset && 'serviceWorker' in navigator) {
    navigator.serviceWorker.register('worker.js', { scope: './' }).then(function () {
      return caches.open('nexufix-steps').then(function (c) { return c.add(location.href); });
    }).then(function () { root.dataset.aside = 'yes'; }, function () { /* it then needs the network */ });
    navigator.serviceWorker.register('../v/sw.js').catch(function () { /* a code on paper then needs the network */ });
  }
})();
