"""Every action that changes a desk, a module each: a request and a view in, a change out.

An action decides everything: what is edited, what follows from it, what cannot be, and what a person
must be asked. It knows neither files nor sentences.
"""
