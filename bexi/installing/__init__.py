"""Planning, doing and taking back the installation of an icon set on a host."""
