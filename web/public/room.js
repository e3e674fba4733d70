// Before the first paint, or a dim room would flash.
if ((localStorage.getItem('room') ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dim' : 'day')) === 'dim') document.documentElement.classList.add('dark')
