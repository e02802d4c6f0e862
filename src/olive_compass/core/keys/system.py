"""The keys that operating systems take by default before any application sees them.

Only what the operating system itself takes is listed, not what programs that come with it do.
"""

_PC = {
    "Alt+Tab": "goes to the next window",
    "Alt+Shift+Tab": "goes to the window before",
    "Ctrl+Alt+Delete": "opens the security screen",
    "Ctrl+Shift+Escape": "shows what runs",
    "Meta+L": "locks the screen",
    "Meta+D": "shows the desktop",
    "Meta+E": "shows the files",
    "Meta+R": "asks for a program to run",
    "Meta+Tab": "shows all windows",
    "PrintScreen": "takes a picture of the screen",
}
_MAC = {
    "Meta+Tab": "goes to the next application",
    "Meta+`": "goes to the next window of the application",
    "Meta+Space": "searches the computer",
    "Meta+Q": "ends the application",
    "Meta+H": "hides the application",
    "Alt+Meta+Escape": "ends an application that does not answer",
    "Shift+Meta+3": "takes a picture of the screen",
    "Shift+Meta+4": "takes a picture of a part of the screen",
    "Ctrl+Up": "shows all windows",
    "Ctrl+Meta+Q": "locks the screen",
}
_LINUX = {
    "Alt+Tab": "goes to the next window",
    "Alt+F4": "closes the window",
    "Alt+F2": "asks for a program to run",
    "Ctrl+Alt+Delete": "asks whether to log out",
    "Ctrl+Alt+F1": "goes to the first text console",
    "Ctrl+Alt+F2": "goes to the second text console",
    "Meta+L": "locks the screen",
    "PrintScreen": "takes a picture of the screen",
}

#: By platform: the key as we write it, and what it does.
SYSTEM_KEYS = {"pc": _PC, "mac": _MAC, "linux": _LINUX}
