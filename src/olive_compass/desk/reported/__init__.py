"""The answers in the shape of their JSON (docs/json.md): records with the files and lines of the desk."""
