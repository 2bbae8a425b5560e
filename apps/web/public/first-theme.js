// Before the first paint, so that the night theme does not flash white.
try {
  const saved = JSON.parse(localStorage.getItem('bathyscope-settings') ?? '{}').state?.theme;
  document.documentElement.dataset.theme = saved ?? 'chart';
} catch {
  document.documentElement.dataset.theme = 'chart';
}
