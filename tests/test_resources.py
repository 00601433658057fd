import json
import tempfile
from pathlib import Path
from unittest import TestCase, mock
from xml.etree.ElementTree import fromstring

from bexi.resources import FACES, GATHERED, face_files, gather, symbol_shapes


class GatheredTests(TestCase):
    def test_half_a_dozen_faces_each_weight_with_latin_first(self):
        self.assertGreaterEqual(len(FACES), 6)
        for face in FACES.values():
            for weight in face.weights:
                first = face_files(face.key, weight)[0]
                self.assertEqual(first[:4], b"wOFF")  # W3C WOFF File Format 1.0, signature

    def test_licences_lie_beside_what_they_are_for(self):
        for face in FACES.values():
            self.assertIn("Open Font License", (GATHERED / f"faces/{face.key}-LICENSE.txt").read_text())
        self.assertIn("ISC", (GATHERED / "symbols-LICENSE.txt").read_text())

    def test_symbols_are_well_formed_and_searchable(self):
        shapes = symbol_shapes()
        self.assertGreater(len(shapes), 1000)
        for shape in list(shapes.values())[::25]:
            fromstring(f"<g>{shape.body}</g>")
        self.assertTrue(any(shape.words for shape in shapes.values()))

    def test_ungathered_faces_say_what_to_do(self):
        with tempfile.TemporaryDirectory() as folder, mock.patch("bexi.resources.GATHERED", Path(folder)):
            face_files.cache_clear()
            with self.assertRaisesRegex(FileNotFoundError, "make setup"):
                face_files("rubik", 700)
        face_files.cache_clear()


class GatheringTests(TestCase):
    def test_packages_become_files(self):
        with tempfile.TemporaryDirectory() as folder:
            modules, target = Path(folder) / "modules", Path(folder) / "gathered"
            for face in FACES.values():
                files = modules / "@fontsource" / face.key / "files"
                files.mkdir(parents=True)
                (files.parent / "LICENSE").write_text("licence")
                for weight in (400, 700):
                    (files / f"{face.key}-latin-{weight}-normal.woff").write_bytes(b"wOFF")
                    (files / f"{face.key}-latin-{weight}-italic.woff").write_bytes(b"wOFF")
            symbols = modules / "lucide-static"
            symbols.mkdir()
            (symbols / "LICENSE").write_text("licence")
            (symbols / "tags.json").write_text('{"dot": ["point"]}')
            (symbols / "icon-nodes.json").write_text('{"dot": [["circle", {"r": "1", "d": "a\\"b", "key": "x"}]]}')
            with mock.patch.object(gather, "GATHERED", target), mock.patch("bexi.resources.generic._NAMES", ("dot",)):
                gather.gather(modules)
            names = {file.name for file in (target / "faces").glob("*.woff")}
            self.assertEqual(names, {f"{face.key}-latin-700-normal.woff" for face in FACES.values()})
            self.assertEqual({file.name for file in (target / "generic").iterdir()}, {"dot-grey.png", "dot-dark.png"})
            ((name, body, words),) = json.loads((target / "symbols.json").read_text())
            self.assertEqual((name, words), ("dot", ["point"]))
            self.assertEqual(fromstring(f"<g>{body}</g>")[0].attrib, {"r": "1", "d": 'a"b'})
