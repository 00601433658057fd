"""SVG files of strangers, written anew from what Bexi knows to be drawing and nothing else."""
