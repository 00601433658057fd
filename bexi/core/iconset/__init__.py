"""The files a site needs: catalogue, build, verification, package."""
