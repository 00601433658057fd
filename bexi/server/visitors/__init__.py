"""The stand-in visitor: a simulated browser and phone, for practice and for proof."""
