"""Every action that changes a desk, a module each: a request and a view in, a change out.

An action decides everything: the edits, their effects, the refusals, and the questions a person
must be asked. It knows neither files nor sentences.
"""
