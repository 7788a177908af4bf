/** The page that asks for the passphrase: plain HTML, so that nothing of the application is given out before. */

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

export const DOOR_CSS = `:root { color-scheme: light dark; --paper: #f6f2e8; --ink: #23303a; --rule: #b9ae97; --loss: #8c3b2a; }
@media (prefers-color-scheme: dark) { :root { --paper: #1d2327; --ink: #e4ddcd; --rule: #5b6064; --loss: #e39a86; } }
body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: var(--paper); color: var(--ink); font: 16px/1.5 Georgia, serif; }
form { width: min(22rem, 88vw); }
h1 { font-weight: 400; font-size: 1.6rem; margin: 0 0 1rem; }
label { display: block; }
input { width: 100%; box-sizing: border-box; font: inherit; padding: 0.4rem 0; border: 0; border-bottom: 1px solid var(--rule); background: none; color: inherit; }
input:focus-visible, button:focus-visible { outline: 2px solid var(--ink); outline-offset: 2px; }
button { margin-top: 1.2rem; font: inherit; padding: 0.4rem 1.4rem; border: 1px solid var(--ink); background: none; color: inherit; cursor: pointer; }
p[role='alert'] { color: var(--loss); }
`;

export const doorPage = (to: string, problem = ''): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Sign in · Alluvium</title>
<link rel="stylesheet" href="/door.css">
</head>
<body>
<form method="post" action="/door">
<h1>Alluvium</h1>
<input type="hidden" name="to" value="${escape(to)}">
<label for="passphrase">Passphrase</label>
<input id="passphrase" name="passphrase" type="password" autocomplete="current-password" required autofocus${problem ? ' aria-invalid="true" aria-describedby="problem"' : ''}>
${problem ? `<p id="problem" role="alert">${escape(problem)}</p>` : ''}
<button>Sign in</button>
</form>
</body>
</html>
`;
