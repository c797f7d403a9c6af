/** Light or dark, kept on this machine; the system's wish decides at first. */
const key = "obturon-theme";

export type Theme = "light" | "dark";

export function currentTheme(): Theme {
  return document.documentElement.dataset.theme === "dark" ? "dark" : "light";
}

export function applyStoredTheme() {
  const stored = localStorage.getItem(key);
  const wished = window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  document.documentElement.dataset.theme = stored === "dark" || stored === "light" ? stored : wished;
}

export function toggleTheme() {
  const next = currentTheme() === "dark" ? "light" : "dark";
  localStorage.setItem(key, next);
  document.documentElement.dataset.theme = next;
  window.dispatchEvent(new Event("themechange"));
}
