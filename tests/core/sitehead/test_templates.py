"""Icon lines in templates: never in a comment, never in one branch of a condition."""

import re
import time
from contextlib import suppress
from unittest import TestCase

import html5lib
from django.template import Context, Engine
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.scan import find_head
from bexi.core.sitehead.snippet import BEGIN, END
from tests.core.sitehead.test_edit import without_block
from tests.sets import SMALL, head_lines_of

ICONS = head_lines_of(SMALL)
CODE = re.compile(
    r"\{#.*?#\}"
    r"|\{%-? ?comment -?%\}.*?\{%-? ?endcomment -?%\}|\{\{!--.*?--\}\}|\{\{--.*?--\}\}|\{\{-? ?/\*.*?\*/ ?-?\}\}"
    r"|@\*.*?\*@|<%!?--.*?--%>|<%.*?%>|<\?(?:'[^']*'|.)*?\?>|\{%.*?%\}|\{\{.*?\}\}",
    re.DOTALL,
)


def edited(page: str) -> str:
    return edit_head(page.encode(), ICONS).after.decode()


def refused(page: str) -> str:
    try:
        edit_head(page.encode(), ICONS)
    except HeadRefused as refusal:
        return refusal.code
    return "edited"


def icons_in_head(page: str) -> int:
    """How many icon links html5lib, a parser of the HTML standard, finds in the head once the code is taken out."""
    head = html5lib.parse(CODE.sub("", page).encode(), namespaceHTMLElements=False).find("head")
    return sum("icon" in link.get("rel", "") for link in head.iter("link"))


def around(inside: str) -> str:
    return f"<!doctype html>\n<html>\n<head>\n<title>a</title>\n{inside}</head>\n<body></body>\n</html>\n"


LINK = '<link rel="stylesheet" href="a.css">\n'
COMMENTS = {
    "Jinja, Django": ("{# ", " #}"),
    "Django": ("{% comment %}", "{% endcomment %}"),
    "Twig, trimmed": ("{%- comment -%}", "{%- endcomment -%}"),
    "Handlebars": ("{{!-- ", " --}}"),
    "Blade": ("{{-- ", " --}}"),
    "Go": ("{{/* ", " */}}"),
    "Go, trimmed": ("{{- /* ", " */ -}}"),
    "JSP, ASP": ("<%-- ", " --%>"),
    "HEEx": ("<%!-- ", " --%>"),
    "Razor": ("@* ", " *@"),
    "PHP": ("<?php /* ", " */ ?>"),
}
CONDITIONS = {
    "Jinja, Django": ("{% if a %}", "{% else %}", "{% endif %}"),
    "Twig, trimmed": ("{%- if a -%}", "{%- elseif b -%}", "{%- endif -%}"),
    "a loop": ("{% for a in b %}", "{% empty %}", "{% endfor %}"),
    "Liquid": ("{% unless a %}", "{% elsif b %}", "{% endunless %}"),
    "Liquid, case": ("{% case a %}{% when 1 %}", "{% when 2 %}", "{% endcase %}"),
    "a word nobody knows": ("{% feature 'x' %}", "", "{% endfeature %}"),
    "Handlebars": ("{{#if a}}", "{{else}}", "{{/if}}"),
    "Mustache": ("{{^a}}", "", "{{/a}}"),
    "Go": ("{{if .A}}", "{{else}}", "{{end}}"),
    "Go, trimmed": ("{{- range .A -}}", "{{- else -}}", "{{- end -}}"),
    "ERB": ("<% if a %>", "<% else %>", "<% end %>"),
    "ERB, a block": ("<% items.each do |x| %>", "", "<% end %>"),
    "EJS": ("<% if (a) { %>", "<% } else { %>", "<% } %>"),
    "HEEx": ("<%= if @a do %>", "<% else %>", "<% end %>"),
    "ASP": ("<% If a Then %>", "<% Else %>", "<% End If %>"),
    "Blade": ("@if(a)\n", "@else\n", "@endif\n"),
    "Blade, a role": ("@auth\n", "", "@endauth\n"),
    "Razor": ("@if (a) {\n", "} else {\n", "}\n"),
    "Razor, in order": ("@foreach (var a in b) {\n", "", "}\n"),
    "PHP": ("<?php if ($a): ?>", "<?php else: ?>", "<?php endif; ?>"),
    "PHP in braces": ("<?php if ($a) { ?>", "<?php } else { ?>", "<?php } ?>"),
    "PHP, a string in the way": ("<?php if ($a == '}') { echo '?>'; ?>", "<?php } else { ?>", "<?php } ?>"),
}


class CommentTests(TestCase):
    def test_nothing_is_written_into_a_comment_or_taken_from_one(self):
        for engine, (begin, end) in COMMENTS.items():
            comment = f'{begin}<link rel="icon" href="old.ico"> <head> </head>{end}\n'
            for page in (around(comment + LINK), around(LINK + comment), comment + around(LINK)):
                with self.subTest(engine, page=page):
                    after = edited(page)
                    self.assertIn(comment, after)
                    self.assertEqual(icons_in_head(after), len(ICONS.lines()))
                    self.assertEqual(edited(after), after)

    def test_code_that_is_given_out_as_it_stands(self):
        after = edited(around("{% raw %}<link rel=icon href=old>{% if %}{% endraw %}" + LINK))
        self.assertNotIn("href=old", after)
        self.assertEqual(icons_in_head(after), len(ICONS.lines()))


class ConditionTests(TestCase):
    def test_lines_stand_outside_every_condition(self):
        for engine, (begin, between, end) in CONDITIONS.items():
            first, second = LINK, LINK.replace("a.css", "b.css")
            for inside in (
                f"{begin}{first}{between}{second}{end}\n",
                f"{LINK}{begin}{first}{between}{second}{end}\n",
                f'{begin}<link rel="icon" href="old">\n{between}{second}{end}\n',
            ):
                with self.subTest(engine, inside=inside):
                    after = edited(around(inside))
                    place = after.index(BEGIN)
                    condition = after.index(begin), after.index(end, after.index(begin) + len(begin)) + len(end)
                    self.assertFalse(condition[0] < place < condition[1], after)
                    self.assertNotIn("old", after)
                    self.assertEqual(icons_in_head(after), len(ICONS.lines()))
                    self.assertEqual(edited(after), after)

    def test_django_shows_the_lines_whatever_it_decides(self):
        page = around(f"{{% if a %}}{LINK}{{% else %}}<link rel=icon href=old>{{% endif %}}\n{{# <link> #}}")
        template = Engine().from_string(edited(page))
        for a in (True, False):
            self.assertEqual(icons_in_head(template.render(Context({"a": a}))), len(ICONS.lines()))

    def test_heads_that_are_conditional_are_left_alone(self):
        for engine, (begin, between, end) in CONDITIONS.items():
            head = "<head>\n<title>a</title>\n</head>\n"
            for page in (f"<html>{begin}{head}{between}{head}{end}<body>", f"{begin}<html>{head}</html>{end}"):
                self.assertEqual(refused(page), "conditional-head", engine)

    def test_a_block_placed_in_a_condition_before_is_moved_out(self):
        block = "\n".join((BEGIN, *ICONS.lines(), END))
        after = edited(around(f"{{% if a %}}\n{block}\n{{% endif %}}\n"))
        self.assertGreater(after.index(BEGIN), after.index("{% endif %}"))
        self.assertEqual(after.count(BEGIN), 1)

    def test_lines_stand_behind_what_another_template_may_replace(self):
        after = edited(around(f"{{% block styles %}}{LINK}{{% endblock %}}\n"))
        self.assertGreater(after.index(BEGIN), after.index("{% endblock %}"))
        whole = edited(f"{{% block page %}}{around(LINK)}{{% endblock %}}")
        self.assertEqual(icons_in_head(whole), len(ICONS.lines()))


class PartTests(TestCase):
    def test_templates_that_build_on_another_are_left_to_it(self):
        for child in (
            "{% extends 'base.html' %}{% block head %}<title>a</title><link rel=icon href=x.ico>{% endblock %}",
            "@extends('base')\n@section('head')<title>a</title>@endsection",
            "{% layout 'theme' %}<title>a</title>",
            "{%- extends 'base.html' -%}\n<html><head><title>a</title></head></html>",
        ):
            self.assertEqual(refused(child), "part-of-layout", child)
        with self.assertRaisesRegex(HeadRefused, r"declares x\.ico itself"):
            edit_head(b"{% extends 'a' %}{% block head %}<link rel=icon href=x.ico>{% endblock %}", ICONS)

    def test_pages_about_templates_are_pages(self):
        page = around(LINK).replace(
            "<body>", "<body><pre>{% extends 'a' %} @extends('b') {% if x %} {# </pre>@layout <i>"
        )
        self.assertEqual(icons_in_head(edited(page)), len(ICONS.lines()))

    def test_parts_that_hold_only_an_icon_line_are_named(self):
        for part in ("<link rel=icon href=x.ico>", "<link rel='icon' href='x.ico'>\n{{ more }}\n"):
            with self.assertRaisesRegex(HeadRefused, r"declares x\.ico itself"):
                edit_head(part.encode(), ICONS)
        self.assertEqual(refused('{{define "title"}}<title>a</title>{{end}}'), "no-head")


class OddPageTests(TestCase):
    """Pages as browsers accept them: html5lib finds the new lines in the head of each."""

    PAGES = (
        "<html><head><title>a</title>",
        "<html><head><title>a</title><link rel=icon href=old><body>b",
        "<html>\n<head>\n<title>a</title>\n<p>text",
        "<html><head><title>a</title> text <link rel=icon href=old></head><body>",
        "\ufeff<!doctype html>\n<title>a</title>\n<p>b",
        "\ufeff<!doctype html>\n<html><head><title>a</title></head>",
        "<!doctype html><head/><title>a</title><body>",
        around("<!--[if lt IE 9]><link rel=stylesheet href=ie.css><![endif]-->\n"),
        around("<!--[if !IE]><!--><link rel=stylesheet href=a.css><!--<![endif]-->\n"),
        around("<noscript><link rel=stylesheet href=a.css></noscript>\n<x-own-element></x-own-element>\n"),
        '<?xml version="1.0"?>\n<html xmlns="http://www.w3.org/1999/xhtml"><head>\n<title>a</title>\n</head></html>',
    )

    def test_lines_stand_in_the_head(self):
        for page in self.PAGES:
            with self.subTest(page):
                after = edited(page)
                self.assertEqual(icons_in_head(after), len(ICONS.lines()), after)
                self.assertEqual(edited(after), after)

    def test_an_empty_head_of_xhtml_is_left_alone(self):
        page = '<html xmlns="http://www.w3.org/1999/xhtml"><head/><body/></html>'
        self.assertEqual(refused(page), "empty-head")

    def test_where_addresses_lead_from(self):
        self.assertEqual(
            edit_head(around('<base href="https://x.example/">').encode(), ICONS).base, "https://x.example/"
        )


MIXED = (
    "{% if a %}|{% endif %}|{#|#}|{{#a}}|{{/a}}|{{|}}|<%|%>|<%--|<? if (a) { ?>|<? } ?>|<?php '|@if (a) {|@{|}|@*|*@|"
    "@endif|{% raw %}|{% endraw %}|{% comment %}|<head>|</head>|<title>a</title>|<link rel=icon href=x>|<!--|-->|\n|"
    "<script>|</script>|<body>|{{!--|--}}|{% block b %}|{% endblock %}|{% extends 'a' %}|<<<A\n|/*|*/|\"|'"
)
REPEATED = (
    "{{|{%|{#|<%|<?php /*|<?php <<<A\n|@{|@if (a) {|{% comment %}|{% raw %}x|@enda @a |{{!--|{{/*|<? '|<!--|{% if a %}|"
    "<? if (a) { ?>|@* |<title>|</title>|<script>a</script>"
)


class OpenCommentTests(TestCase):
    def test_no_lines_are_put_into_a_comment_that_has_no_end(self):
        with self.assertRaises(HeadRefused):
            edit_head(b"{% if a %}<head><!--{% endif %}", ICONS)
        before = edit_head(b"<head><!-- never closed", ICONS).after
        self.assertLess(before.index(b"<link"), before.index(b"<!-- never"))


class GeneratedTests(TestCase):
    @given(st.lists(st.sampled_from(MIXED.split("|")), max_size=30))
    @settings(max_examples=1500, deadline=None)
    def test_any_mixture_is_edited_for_good_or_refused(self, marks):
        page = "".join(marks).encode()
        try:
            once = edit_head(page, ICONS)
        except HeadRefused:
            return
        self.assertEqual(edit_head(once.after, ICONS).after, once.after)
        kept = without_block(once.after)
        for line in once.removed:
            kept, page = (each.replace(line.encode(), b"") for each in (kept, page))  # which of two alike, is all one
        self.assertEqual(b"".join(kept.split()), b"".join(page.split()))

    def test_a_brace_within_other_code_ends_a_condition_behind_that_code(self):
        page = b"@if (a) {<head><? } ?></head>"
        self.assertIn(b"<? } ?><!-- icons", edit_head(page, ICONS).after)

    def test_no_repetition_makes_it_slow(self):
        # Four times as much may take four times as long, not sixteen times; ten leaves room for noise.
        for mark in REPEATED.split("|"):
            short, long = (min(seconds(mark * count) for _ in range(2)) for count in (4_000, 16_000))
            self.assertLess(long, 10 * max(short, 0.005), mark)


def seconds(text: str) -> float:
    start = time.process_time()
    with suppress(HeadRefused):
        find_head(text)
    return time.process_time() - start
