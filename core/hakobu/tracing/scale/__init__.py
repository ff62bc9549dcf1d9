"""Scale of a traced image: reference shapes, levelling, placement."""
