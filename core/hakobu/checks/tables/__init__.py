"""Tables of a document that several rules share: outlines, nesting, coincidence, thin places."""
