"""How the app is put together: settings, addresses, the one API."""
