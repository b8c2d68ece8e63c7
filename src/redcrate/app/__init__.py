"""The window: Qt Widgets over a session. Views read the page and call the session's commands."""
