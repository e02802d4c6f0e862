"""The answers in the shape of their JSON (docs/json.md): records whose fields are its names, with files and lines of the desk."""
