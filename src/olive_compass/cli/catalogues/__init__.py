"""The commands of ``app``: what is known of an application, one module a kind of knowledge."""
