// Before anything is painted: the light that was chosen here, or the machine's own.
const kept = localStorage.getItem('theme');
const night = kept ? kept === 'night' : matchMedia('(prefers-color-scheme: dark)').matches;
document.documentElement.dataset.theme = night ? 'night' : 'day';
// No form here is sent by the browser itself: pressed before the page has come to life, Enter must
// not reload it and lose what was typed.
document.addEventListener('submit', (event) => event.preventDefault(), true);
