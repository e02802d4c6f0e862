"use strict";
(() => {
  const data = JSON.parse(document.getElementById("keys").textContent);
  const $ = (where, what) => where.querySelector(what);
  const $$ = (where, what) => [...where.querySelectorAll(what)];
  const make = (name, classes, text) => {
    const made = document.createElement(name);
    if (classes) made.className = classes;
    if (text) made.textContent = text;
    return made;
  };
  const SIGNS = { begins: "…", muted: "×", guarded: "!", reserved: "#", keyless: "–", shared: "&", inside: "›" };
  const SAYS = {
    free: "free", used: "used", begins: "typed sequences begin with it", muted: "muted", guarded: "guarded",
    reserved: "reserved", keyless: "free: keyless on purpose", shared: "shared by several commands",
    inside: "nothing here, used in a mode inside this one",
  };
  const ORDER = ["Ctrl", "Alt", "AltGr", "Shift", "Meta"];
  const NAMES = { Control: "Ctrl", Alt: "Alt", Shift: "Shift", Meta: "Meta", AltGraph: "AltGr" };
  // Where AltGr is no modifier of its own, it is Ctrl and Alt held together.
  const names = (key) => (key === "AltGraph" && !app().held.includes("AltGr") ? ["Ctrl", "Alt"] : [NAMES[key]].filter(Boolean));
  const MODIFIER_KEYS = {
    ControlLeft: "Ctrl", ControlRight: "Ctrl", AltLeft: "Alt", AltRight: "Alt", ShiftLeft: "Shift", ShiftRight: "Shift",
    MetaLeft: "Meta", MetaRight: "Meta",
  };
  const TYPES = /^(Key|Digit|Minus|Equal|Bracket|Semicolon|Quote|Backquote|Backslash|Comma|Period|Slash|Intl)/;
  const words = document.getElementById("words");
  const press = document.getElementById("press");
  const count = document.getElementById("count");
  const list = document.getElementById("found");
  const articles = $$(document, ".app");
  let shown = articles[0];
  let pressed = "";
  const down = new Set();

  document.body.classList.add("live");
  for (const part of $$(document, ".scripted")) part.hidden = false;

  const app = () => data[shown.dataset.app];
  const mode = () => Number(($(shown, ".mode input:checked") || { value: 0 }).value);
  const held = () => {
    const ticked = $$(shown, ".held input:checked").map((each) => each.value);
    return ORDER.filter((each) => ticked.includes(each) || down.has(each)).join("+");
  };
  const seen = (code) => {
    const keys = app().grid[held()] || {};
    return app().seen[keys[code] ? keys[code][mode()] : 0];
  };
  const wanted = () => words.value.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (text) => wanted().every((word) => text.toLowerCase().includes(word));

  for (const article of articles) {
    const own = data[article.dataset.app];
    article.setAttribute("role", "tabpanel");
    article.setAttribute("aria-labelledby", `tab-${article.dataset.app}`);
    const boards = $(article, ".boards");
    const devices = $(article, ".devices");
    own.boards.forEach((board, n) => {
      const box = make("div", n ? "board beside" : "board");
      if (n) box.append(make("h4", "", board.title));
      const keys = make("div", "keys");
      const left = Math.min(...board.keys.map((key) => key[2]));
      const top = Math.min(...board.keys.map((key) => key[3]));
      const wide = Math.max(...board.keys.map((key) => key[2] + key[4])) - left;
      const high = Math.max(...board.keys.map((key) => key[3] + key[5])) - top;
      // What lies beside keeps the size of a key, whatever its number of keys.
      if (n) box.style.width = `${wide * 3.4}rem`;
      keys.style.aspectRatio = `${wide} / ${high}`;
      for (const [code, legend, x, y, width, height] of board.keys) {
        const key = make("button", "key");
        key.type = "button";
        key.dataset.code = code;
        key.dataset.legend = legend;
        key.tabIndex = -1;
        key.style.left = `${((x - left) / wide) * 100}%`;
        key.style.top = `${((y - top) / high) * 100}%`;
        key.style.width = `calc(${(width / wide) * 100}% - 3px)`;
        key.style.height = `calc(${(height / high) * 100}% - 3px)`;
        key.append(make("b", "", legend), make("i"), make("span"));
        keys.append(key);
      }
      box.append(keys);
      (n ? devices : boards).append(box);
    });
    const first = $(boards, ".key");
    if (first) first.tabIndex = 0;
    for (const box of [boards, devices]) {
      box.addEventListener("focusin", (event) => {
        for (const key of $$(article, ".key")) key.tabIndex = key === event.target ? 0 : -1;
      });
      for (const what of ["mouseover", "focusin", "click"])
        box.addEventListener(what, (event) => tell(event.target.closest(".key")));
      box.addEventListener("keydown", walk);
    }
    article.addEventListener("change", draw);
  }

  // The arrows walk to the nearest key that way; Tab goes past the keyboard in one step.
  function walk(event) {
    const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
    const from = event.target.closest(".key");
    const way = ways[event.key];
    if (!from || !way || event.ctrlKey || event.altKey || event.metaKey) return;
    event.preventDefault();
    const middle = (key) => {
      const box = key.getBoundingClientRect();
      return [box.left + box.width / 2, box.top + box.height / 2];
    };
    const [x, y] = middle(from);
    let best = null;
    let least = Infinity;
    for (const key of $$(shown, ".key")) {
      const [a, b] = middle(key);
      const along = (a - x) * way[0] + (b - y) * way[1];
      const aside = Math.abs((a - x) * way[1]) + Math.abs((b - y) * way[0]);
      if (key !== from && along > 4 && along + 3 * aside < least) {
        least = along + 3 * aside;
        best = key;
      }
    }
    if (best) best.focus();
  }

  function tell(key) {
    if (!key) return;
    const found = seen(key.dataset.code);
    const name = [held(), key.dataset.legend].filter(Boolean).join("+");
    const state = found.text && found.state !== "used" ? ` (${SAYS[found.state]})` : "";
    say(found.text || SAYS[found.state], name, found.why, state);
  }

  function say(what, keys, reasons, state = "") {
    const box = $(shown, ".reason");
    box.textContent = "";
    const line = make("p");
    line.append(make("kbd", "", keys), document.createTextNode(" "), make("strong", "", what), document.createTextNode(state));
    box.append(line);
    if (!reasons.length) return;
    const all = make("ul");
    for (const reason of reasons) all.append(make("li", "", reason));
    box.append(all);
  }

  function draw() {
    const own = app();
    const free = [];
    const groups = new Set();
    const states = new Set();
    for (const key of $$(shown, ".key")) {
      const found = seen(key.dataset.code);
      const lit = wanted().length > 0 && found.text && fits(found.text);
      key.className = `key ${found.state === "shared" ? "used" : found.state === "keyless" ? "free" : found.state}`;
      if (lit || (pressed && pressed === key.dataset.code)) key.classList.add("lit");
      if (wanted().length > 0 && !lit) key.classList.add("dim");
      if (down.has(MODIFIER_KEYS[key.dataset.code])) key.classList.add("down");
      key.style.background = !key.classList.contains("dim") && own.tints[found.group] ? own.tints[found.group] : "";
      if (own.tints[found.group]) groups.add(found.group);
      states.add(found.state);
      $(key, "i").textContent = SIGNS[found.state] || "";
      $(key, "span").textContent = ["keyless", "inside", "reserved"].includes(found.state) ? "" : found.text;
      key.setAttribute("aria-label", `${key.dataset.legend}: ${found.text || SAYS[found.state]}`
        + (found.text && found.state !== "used" ? `, ${SAYS[found.state]}` : ""));
      if (["free", "keyless"].includes(found.state) && TYPES.test(key.dataset.code)) free.push(key.dataset.legend);
    }
    fit();
    const legend = $(shown, ".legend");
    legend.textContent = "";
    for (const [group, tint] of Object.entries(own.tints)) {
      if (!groups.has(group)) continue;
      const sample = make("span", "", group);
      sample.style.setProperty("--tint", tint);
      legend.append(sample);
    }
    for (const [state, sign] of Object.entries(SIGNS))
      if (states.has(state)) legend.append(make("em", "", `${sign} = ${SAYS[state]}`));
    const named = own.modes[mode()];
    const where = own.modes.length < 2 ? "" : named === "everywhere" ? " everywhere" : ` in ${named}`;
    const using = held() ? ` with ${held()}` : "";
    $(shown, ".state").textContent = `${own.modes.length < 2 ? "" : `mode ${named}`}${using}`.trim();
    $(shown, ".room").textContent = free.length
      ? `Free${using}${where}: ${[...new Set(free)].join(" ")}`
      : `No key that types is free${using}${where}.`;
  }

  // No title is cut, and none broken within a word: where one has no room, its letters are smaller.
  function fit() {
    let tight = $$(shown, ".key span");
    for (const span of tight) span.style.removeProperty("--small");
    for (const small of [0.9, 0.8, 0.7, 0.6]) {
      tight = tight.filter((span) => span.scrollWidth > span.clientWidth || span.parentNode.scrollHeight > span.parentNode.clientHeight);
      for (const span of tight) span.style.setProperty("--small", small);
    }
  }

  function sift() {
    let found = 0;
    for (const line of $$(shown, ".row")) {
      const hit = pressed ? (line.dataset.presses || "").split(" ").includes(stroke()) : fits(line.textContent);
      line.hidden = !hit;
      if (hit) found += 1;
    }
    for (const section of $$(shown, "main section")) section.hidden = !$$(section, ".row").some((line) => !line.hidden);
    const hits = wanted().length ? commands() : [];
    if (wanted().length) found = hits.length;
    count.textContent = wanted().length || pressed ? `${found} ${found === 1 ? "command" : "commands"}` : "";
    offer(hits);
    draw();
  }

  // The commands with these words in all applications, those of the open one first.
  function commands() {
    const hits = [];
    for (const article of articles)
      for (const [title, menu, keys, inMode, presses] of data[article.dataset.app].commands)
        if (fits(`${title} ${menu}`)) hits.push({ article, title, menu, keys, inMode, presses });
    const rank = (hit) => (hit.article === shown ? 0 : 2) + (fits(hit.title) ? 0 : 1);
    return hits.sort((a, b) => rank(a) - rank(b));
  }

  function offer(hits) {
    list.textContent = "";
    list.hidden = !hits.length;
    for (const hit of hits.slice(0, 60)) {
      const button = make("button");
      button.type = "button";
      const app = data[hit.article.dataset.app].title;
      button.append(
        make("strong", "", hit.title), make("span", "soft", hit.menu || "in no menu"),
        hit.keys ? make("kbd", "", hit.keys) : make("span", "soft", "no key"), make("span", "soft", app));
      button.addEventListener("click", () => go(hit));
      const item = make("li");
      item.append(button);
      list.append(item);
    }
  }

  // Opens the application, the mode and the modifiers with which the command is reached.
  function go(hit) {
    choose(document.getElementById(`tab-${hit.article.dataset.app}`), false);
    const mode = $$(shown, ".mode input")[hit.inMode];
    if (mode) mode.checked = true;
    const parts = (hit.presses[0] || "").split("+");
    const code = parts.pop();
    for (const each of $$(shown, ".held input")) each.checked = parts.includes(each.value);
    draw();
    const key = $$(shown, ".key").find((each) => each.dataset.code === code);
    if (key) tell(key);
    else say(hit.title, hit.keys || "no key", hit.menu ? [`in the menus: ${hit.menu}`] : []);
    shown.scrollIntoView({ block: "start" });
    if (key) key.focus({ preventScroll: true });
  }

  const stroke = () => [held(), pressed].filter(Boolean).join("+");

  function choose(tab, focus) {
    for (const each of $$(document, "[role=tab]")) {
      each.setAttribute("aria-selected", String(each === tab));
      each.tabIndex = each === tab ? 0 : -1;
    }
    shown = document.getElementById(tab.getAttribute("aria-controls"));
    for (const article of articles) article.hidden = article !== shown;
    if (focus) tab.focus();
    pressed = "";
    press.value = "";
    sift();
  }
  const tabs = $$(document, "[role=tab]");
  tabs.forEach((tab, n) => {
    tab.addEventListener("click", () => choose(tab, false));
    tab.addEventListener("keydown", (event) => {
      const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
      const goal = { Home: 0, End: tabs.length - 1 }[event.key] ?? (step && (n + step + tabs.length) % tabs.length);
      if (goal === undefined) return;
      event.preventDefault();
      choose(tabs[goal], true);
    });
  });

  words.addEventListener("input", () => {
    pressed = "";
    press.value = "";
    sift();
  });
  document.getElementById("clear").addEventListener("click", () => {
    words.value = press.value = pressed = "";
    for (const each of $$(shown, ".held input")) each.checked = false;
    sift();
  });

  // A press that is looked up: the modifiers stay ticked, so that the board shows where it lies.
  press.addEventListener("keydown", (event) => {
    if (event.key === "Tab" || NAMES[event.key]) return;
    event.preventDefault();
    const signs = ["Control", "Alt", "AltGraph", "Shift", "Meta"].filter((each) => event.getModifierState(each));
    const all = signs.flatMap(names);
    for (const each of $$(shown, ".held input")) each.checked = all.includes(each.value);
    down.clear();
    words.value = "";
    pressed = event.code;
    const key = $$(shown, ".key").find((each) => each.dataset.code === pressed);
    press.value = [held(), key ? key.dataset.legend : event.key].filter(Boolean).join("+");
    sift();
    tell(key);
  });

  // What is held lights up on the board for as long as it is held.
  const typing = (event) => event.target === words;
  document.addEventListener("keydown", (event) => {
    const found = names(event.key);
    if (!found.length || typing(event) || event.repeat) return;
    if (event.key === "Alt") event.preventDefault();
    for (const each of found) down.add(each);
    draw();
  });
  document.addEventListener("keyup", (event) => {
    for (const each of names(event.key)) down.delete(each);
    if (NAMES[event.key]) draw();
  });
  window.addEventListener("blur", () => {
    down.clear();
    draw();
  });

  for (const what of ["resize", "beforeprint"]) window.addEventListener(what, fit);

  if (tabs.length) choose(tabs[0], false);
  if (tabs.length === 1) $(document, ".tabs").hidden = true;
})();
