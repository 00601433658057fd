"""What a rebuilt SVG may contain: elements, attributes, style properties and functions that draw, and no others.

Sources: SVG 2 (elements, geometry, painting), Filter Effects 1, CSS Masking 1, Compositing and Blending 1.
"""

SVG = "http://www.w3.org/2000/svg"
XLINK = "http://www.w3.org/1999/xlink"
XML = "http://www.w3.org/XML/1998/namespace"


def _words(text: str) -> frozenset[str]:
    return frozenset(text.split())


TEXT = _words("text tspan textPath")
ELEMENTS = TEXT | _words(
    """
    path rect circle ellipse line polyline polygon image
    svg g defs symbol use switch marker pattern linearGradient radialGradient stop clipPath mask
    filter feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap
    feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode
    feMorphology feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence
    """
)

PRESENTATION = _words(
    """
    alignment-baseline baseline-shift clip clip-path clip-rule color color-interpolation color-interpolation-filters
    direction display dominant-baseline fill fill-opacity fill-rule filter flood-color flood-opacity font-family
    font-size font-size-adjust font-stretch font-style font-variant font-weight image-rendering letter-spacing
    lighting-color marker-end marker-mid marker-start mask mask-type opacity overflow paint-order shape-rendering
    stop-color stop-opacity stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin
    stroke-miterlimit stroke-opacity stroke-width text-anchor text-decoration text-rendering
    transform-origin unicode-bidi vector-effect visibility word-spacing writing-mode
    """
)
"""Attributes that are read as styles (SVG 2 §6.6)."""

PROPERTIES = PRESENTATION | _words("d cx cy r rx ry x y width height transform isolation mix-blend-mode marker")
"""What style sheets and style attributes may set."""

GEOMETRY = {
    "circle": _words("cx cy r"),
    "ellipse": _words("cx cy rx ry"),
    "rect": _words("x y width height rx ry"),
    "image": _words("x y width height"),
    "svg": _words("x y width height"),
    "path": _words("d"),
}
"""Properties that are also attributes, by the elements they are of (SVG 2 §6.6); the renderer reads attributes only."""

DRAW_NOTHING = _words(
    """
    enable-background line-height text-align text-indent text-orientation white-space white-space-collapse
    font-feature-settings font-variation-settings font-kerning font-variant-ligatures font-variant-position
    font-variant-caps font-variant-numeric font-variant-alternates font-variant-east-asian text-decoration-line
    text-decoration-style text-decoration-color text-decoration-thickness shape-margin shape-padding shape-inside
    shape-subtract solid-color solid-opacity inline-size pointer-events cursor user-select will-change
    backface-visibility
    """
)
"""Properties that drawing programs write by the dozen; a picture of shapes looks the same without them."""

ATTRIBUTES = _words(
    """
    d points pathLength x y x1 y1 x2 y2 cx cy r rx ry fx fy fr width height dx dy rotate textLength lengthAdjust
    startOffset method spacing side transform viewBox preserveAspectRatio refX refY markerWidth markerHeight
    markerUnits orient offset gradientUnits gradientTransform spreadMethod patternUnits patternContentUnits
    patternTransform clipPathUnits maskUnits maskContentUnits filterUnits primitiveUnits in in2 result mode type
    values tableValues slope intercept amplitude exponent operator k1 k2 k3 k4 order kernelMatrix divisor bias
    targetX targetY edgeMode kernelUnitLength preserveAlpha surfaceScale diffuseConstant specularConstant
    specularExponent limitingConeAngle pointsAtX pointsAtY pointsAtZ z azimuth elevation scale xChannelSelector
    yChannelSelector stdDeviation radius baseFrequency numOctaves seed stitchTiles systemLanguage
    """
)
"""Other attributes; nothing that is written in them is ever fetched or run."""

FUNCTIONS = _words(
    """
    url blur brightness contrast drop-shadow grayscale hue-rotate invert opacity saturate sepia
    """
)
"""In values of properties, beside those of colours and transforms; of `url` only what points into the file itself."""

MOST_OCTAVES = 10
"""Of a noise: each further one adds less than a thousandth, which 8 bits cannot show (Filter Effects 1, §15.20)."""
