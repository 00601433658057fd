import itertools
import os
import re
import threading
import time
from datetime import timedelta
from io import StringIO
from ipaddress import ip_network
from pathlib import Path
from unittest import mock

from axes.models import AccessAttempt
from cryptography.fernet import Fernet
from django.conf import settings
from django.core.management import call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone
from typer.testing import CliRunner

from bexi.cli import app
from bexi.core.errors import HostRefused
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret
from bexi.server import locks, vault
from bexi.server import user as command
from bexi.server.api import api
from bexi.server.installs.history import Entry, as_csv
from bexi.server.people import accounts, tokens
from bexi.server.people.locking_out import MOST_FROM_ONE_ADDRESS, a_turn_to_hash
from bexi.server.people.models import Token, User
from bexi.server.people.roles import Role
from bexi.server.problems import NotAllowed
from bexi.server.sites.allowed_folders import refuse_folder
from bexi.server.sites.models import Deed, Site
from tests.server.case import ApiTestCase, quiet

PASSWORD = "nine-lanterns-astern"
PLACE = Place.parse("sftp://ines@ferry.example/www")
ASKED_WITHOUT_ACCOUNT = {("post", "/api/sign-in")}
FOR_WHO_LOOKS = {
    "/api/sign-in", "/api/sign-out", "/api/password", "/api/tokens", "/api/tokens/{token_id}", "/api/drawings/preview",
    "/api/artwork/{artwork_id}/ladder", "/api/artwork/{artwork_id}/cut-off", "/api/artwork/{artwork_id}/judgement",
    "/api/sites/{site_id}/fit", "/api/builds/{build_id}/again",
}  # fmt: skip


FOR_WHO_CHECKS = {
    "/api/sites/{site_id}/checks", "/api/checks/{check_id}/stop",
    "/api/visitor", "/api/visitor/visits", "/api/visitor/home-screen", "/api/visitor/clock", "/api/visitor/cache",
}  # fmt: skip


def operations():
    """Every method and path of the API, as its schema tells them."""
    for path, methods in api.get_openapi_schema()["paths"].items():
        yield from itertools.product(methods, [path])


def filled(path: str) -> str:
    return re.sub(r"\{[^}]*\}", "1", path)


class PeopleCase(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.boss = accounts.add("ines", PASSWORD, Role.ADMINISTERS)

    def sign_in(self, name: str = "ines", password: str = PASSWORD, **options: object):
        answer = self.ask("POST", "sign-in", {"name": name, "password": password}, **options)
        if answer.status_code == 200:
            self.token = {"X-CSRFToken": self.client.cookies["csrftoken"].value}
        return answer

    def by_token(self, role: Role, method: str, path: str, body: str = "{}", user: User | None = None):
        _, secret = tokens.make(user or self.boss, f"{role}", role, 7)
        header = {"Authorization": f"Bearer {secret}"}
        return Client(enforce_csrf_checks=True).generic(method, path, body, "application/json", headers=header)


class ClosedTests(PeopleCase):
    def test_every_operation_is_closed_to_who_is_not_signed_in(self):
        walked = 0
        for method, path in operations():
            if (method, path) not in ASKED_WITHOUT_ACCOUNT:
                self.problem(self.client.generic(method, filled(path), "{}", headers=self.token), 401, "sign-in-needed")
                walked += 1
        self.assertGreater(walked, 70)
        self.problem(self.ask("POST", "sign-in", {"name": "ines", "password": "guess"}), 401, "wrong-password")

    def test_who_only_looks_changes_nothing(self):
        for method, path in operations():
            if method != "get" and path not in FOR_WHO_LOOKS:
                self.problem(self.by_token(Role.LOOKS, method, filled(path)), 403, "role-too-small")

    def test_who_only_checks_has_sites_checked_and_changes_nothing(self):
        for method, path in operations():
            allowed = path in FOR_WHO_LOOKS or path in FOR_WHO_CHECKS
            if method != "get" and not allowed:
                self.problem(self.by_token(Role.CHECKS, method, filled(path)), 403, "role-too-small")
        site = Site.objects.create(name="Tide", address="http://127.0.0.1:1/")
        self.assertEqual(self.by_token(Role.CHECKS, "POST", f"/api/sites/{site.pk}/checks").status_code, 201)
        self.problem(self.by_token(Role.LOOKS, "POST", f"/api/sites/{site.pk}/checks"), 403, "role-too-small")
        me = self.by_token(Role.CHECKS, "GET", "/api/me").json()
        self.assertEqual((me["role"], me["may"]), ("checks", ["looks", "checks"]))

    def test_each_role_holds_those_whose_permissions_it_has(self):
        held = {role: [other for other in Role if role.holds(other)] for role in Role}
        self.assertEqual(held[Role.EDITS], [Role.LOOKS, Role.CHECKS, Role.EDITS])
        self.assertEqual(held[Role.ADMINISTERS], list(Role))

    def test_only_who_installs_comes_near_a_place(self):
        site = Site.objects.create(name="Ferry")
        named = [path for _, path in operations() if re.search("install|planning|connection", path)]
        self.assertGreater(len(named), 8)
        for method, path in operations():
            if method != "get" and path in named:
                self.problem(self.by_token(Role.EDITS, method, filled(path)), 403, "role-too-small")
        body = f'{{"name": "Ferry", "place": "{self.folder}"}}'
        self.problem(self.by_token(Role.EDITS, "PUT", f"/api/sites/{site.pk}", body), 403, "role-too-small")
        self.problem(self.by_token(Role.EDITS, "POST", "/api/sites", body), 403, "role-too-small")
        self.assertEqual(self.by_token(Role.INSTALLS, "PUT", f"/api/sites/{site.pk}", body).status_code, 200)
        self.assertEqual(self.by_token(Role.EDITS, "POST", "/api/sites", '{"name": "Tide"}').status_code, 201)
        self.assertEqual(Deed.objects.get().who, "ines (token installs)")

    def test_the_schema_is_not_given_out(self):
        with quiet("django.request"):
            self.assertEqual(self.client.get("/api/openapi.json").status_code, 404)


class OpenTests(ApiTestCase):
    """Without accounts: open to this machine, and to nobody else."""

    def test_this_machine_needs_no_account(self):
        me = self.ask("GET", "me").json()
        self.assertEqual((me["role"], me["has_account"]), ("administers", False))
        self.problem(self.ask("POST", "tokens", {"name": "ci", "role": "edits", "days": 3}), 409, "no-account")

    def test_nobody_else_gets_in(self):
        for coming in (
            {"REMOTE_ADDR": "192.168.1.9"}, {"REMOTE_ADDR": ""}, {"REMOTE_ADDR": "::ffff:10.0.0.1"},
            {"HTTP_X_FORWARDED_FOR": "127.0.0.1"}, {"HTTP_FORWARDED": "for=127.0.0.1"}, {"HTTP_VIA": "1.1 proxy"},
        ):  # fmt: skip
            self.problem(self.client.get("/api/sites", **coming), 401, "sign-in-needed")
        with override_settings(REACHED_AS=["bexi.example"]):
            self.problem(self.client.get("/api/sites"), 401, "sign-in-needed")

    def test_the_first_account_administers(self):
        body = {"name": "ines", "password": PASSWORD, "role": "looks"}
        self.problem(self.ask("POST", "people", body), 409, "last-administrator")
        self.assertEqual(self.ask("POST", "people", body | {"role": "administers"}).status_code, 201)
        self.problem(self.ask("GET", "sites"), 401, "sign-in-needed")


class SigningInTests(PeopleCase):
    def test_in_and_out(self):
        self.assertEqual(self.sign_in().json()["name"], "ines")
        self.assertEqual(self.ask("GET", "sites").status_code, 200)
        self.assertEqual(self.ask("POST", "sign-out").status_code, 204)
        self.problem(self.ask("GET", "sites"), 401, "sign-in-needed")

    def test_a_page_elsewhere_can_sign_nobody_in(self):
        self.token = {}
        self.problem(self.sign_in(), 409, "page-outdated")

    def test_signing_out_everywhere_ends_every_session(self):
        elsewhere = Client()
        elsewhere.force_login(self.boss, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(elsewhere.get("/api/sites").status_code, 200)
        self.sign_in()
        self.ask("POST", "sign-out?everywhere=true")
        self.problem(elsewhere.get("/api/sites"), 401, "sign-in-needed")

    def test_another_password_ends_the_other_sessions(self):
        elsewhere = Client()
        elsewhere.force_login(self.boss, "django.contrib.auth.backends.ModelBackend")
        self.sign_in()
        for old, new, status, code in (
            ("wrong", PASSWORD + "2", 409, "wrong-password"),
            (PASSWORD, "short", 422, "password-refused"),
            (PASSWORD, "qwertyuiop123", 422, "password-refused"),
        ):
            with self.subTest(new=new):
                self.problem(self.ask("POST", "password", {"old": old, "new": new}), status, code)
        self.assertEqual(self.ask("POST", "password", {"old": PASSWORD, "new": PASSWORD + "2"}).status_code, 204)
        self.assertEqual(self.ask("GET", "me").status_code, 200)
        self.problem(elsewhere.get("/api/sites"), 401, "sign-in-needed")

    def test_guessing_is_shut_out_for_that_address_alone(self):
        with quiet("axes.handlers.database"):
            tried = [self.sign_in(password="guess").status_code for _ in range(6)]
        self.assertEqual((tried[0], tried[-1]), (401, 429))
        with quiet("axes.handlers.database"):
            self.problem(self.sign_in(), 429, "too-many-tries")  # also with the right one
        self.assertEqual(self.sign_in(REMOTE_ADDR="127.0.0.2").status_code, 200)

    def test_behind_our_proxy_the_address_is_the_one_it_adds(self):
        with override_settings(PROXIES=[ip_network("127.0.0.1")]), quiet("axes.handlers.database"):
            for number in range(6):
                told = f"10.9.9.{number}, 203.0.113.7"  # the first is what the visitor says of itself
                answer = self.sign_in(password="guess", HTTP_X_FORWARDED_FOR=told)
        self.assertEqual(answer.status_code, 429)

    def test_guessing_names_is_shut_out_for_the_address(self):
        with quiet("axes.handlers.database"):
            for number in range(MOST_FROM_ONE_ADDRESS):
                self.assertEqual(self.sign_in(name=f"name-{number}", password="guess").status_code, 401, number)
            self.problem(self.sign_in(), 429, "too-many-tries")
        self.assertEqual(self.sign_in(REMOTE_ADDR="127.0.0.2").status_code, 200)
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.sign_in().status_code, 200)

    def test_few_passwords_are_looked_at_at_once(self):
        at_once, most = [], []

        def hashed() -> None:
            with a_turn_to_hash():
                at_once.append(1)
                most.append(len(at_once))
                time.sleep(0.05)
                at_once.pop()

        threads = [threading.Thread(target=hashed) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual((len(most), max(most)), (8, 2))
        with (
            locks.holding("hashing", 0),
            locks.holding("hashing", 1),
            mock.patch("bexi.server.people.locking_out._AWAITED_SECONDS", 0),
        ):
            self.problem(self.sign_in(), 429, "many-sign-in")

    def test_passwords_are_kept_by_argon2(self):
        """OWASP, Password storage: Argon2id."""
        self.assertTrue(User.objects.get().password.startswith("argon2$argon2id$"))


class TokenTests(PeopleCase):
    def test_a_token_is_told_once_and_kept_as_a_hash(self):
        self.sign_in()
        made = self.ask("POST", "tokens", {"name": "ci", "role": "edits", "days": 3}).json()
        self.assertNotIn("secret", self.ask("GET", "tokens").json()[0])
        self.assertNotIn(made["secret"], str(Token.objects.values()))
        self.assertEqual(self.ask("DELETE", f"tokens/{made['id']}").status_code, 204)
        self.assertIsNone(tokens.find(made["secret"]))

    def test_it_can_never_do_more_than_its_account_and_makes_no_others(self):
        small = accounts.add("tom", PASSWORD, Role.LOOKS)
        another = self.by_token(Role.ADMINISTERS, "POST", "/api/tokens", '{"name":"a","role":"looks","days":1}')
        self.problem(another, 409, "no-account")
        with self.assertRaises(NotAllowed):
            tokens.make(small, "ci", Role.EDITS, 1)
        _, secret = tokens.make(self.boss, "ci", Role.INSTALLS, 1)
        accounts.change(small, Role.ADMINISTERS, True)
        accounts.change(self.boss, Role.LOOKS, True)
        answer = self.client.post("/api/sites", "{}", "application/json", headers={"Authorization": f"Bearer {secret}"})
        self.problem(answer, 403, "role-too-small")

    def test_no_token_ends_sessions_or_tells_of_tokens(self):
        for role in Role:
            for method, path in (("POST", "/api/sign-out?everywhere=true"), ("GET", "/api/tokens")):
                self.problem(self.by_token(role, method, path), 409, "no-account")
        self.boss.refresh_from_db()
        self.assertEqual(self.boss.sign_outs, 0)

    def test_it_ends(self):
        token, secret = tokens.make(self.boss, "ci", Role.LOOKS, 1)
        self.assertEqual(tokens.find(secret), token)
        Token.objects.update(ends=timezone.now() - timedelta(seconds=1))
        answer = self.client.get("/api/sites", headers={"Authorization": f"bearer {secret}"})
        self.problem(answer, 401, "token-unknown")

    def test_it_ends_with_its_account(self):
        _, secret = tokens.make(accounts.add("tom", PASSWORD, Role.EDITS), "ci", Role.LOOKS, 1)
        accounts.change(User.objects.get(username="tom"), Role.EDITS, False)
        self.assertIsNone(tokens.find(secret))


class AccountTests(PeopleCase):
    def test_somebody_always_administers(self):
        self.sign_in()
        for body in ({"role": "installs"}, {"role": "administers", "active": False}):
            self.problem(self.ask("PUT", f"people/{self.boss.pk}", body), 422, "last-administrator")
        self.boss.refresh_from_db()
        self.assertEqual((self.boss.role, self.boss.is_active), (Role.ADMINISTERS, True))

    def test_names_are_refused_with_the_reason(self):
        self.sign_in()
        for name in ("ines", "two words", "x" * 61):
            answer = self.ask("POST", "people", {"name": name, "password": PASSWORD})
            self.assertEqual(answer.status_code, 422, name)

    def test_a_shut_account_is_out_at_once(self):
        tom = accounts.add("tom", PASSWORD, Role.EDITS)
        session = Client()
        session.force_login(tom, "django.contrib.auth.backends.ModelBackend")
        accounts.change(tom, Role.EDITS, False)
        self.problem(session.get("/api/sites"), 401, "sign-in-needed")


class AllowedFoldersTests(ApiTestCase):
    def test_a_server_for_others_allows_only_folders_that_were_named(self):
        inside, outside = self.folder / "sites" / "ferry", self.folder / "elsewhere"
        for folder in (inside, outside):
            folder.mkdir(parents=True)
        link = self.folder / "sites" / "link"
        link.symlink_to(outside)
        for roots, elsewhere, place, allowed in (
            ([], [], outside, True),
            ([], ["bexi.example"], inside, False),
            ([self.folder / "sites"], ["bexi.example"], inside, True),
            ([self.folder / "sites"], [], outside, False),
            ([self.folder / "sites"], [], link, False),
        ):
            with self.subTest(place=place, roots=roots), override_settings(PLACE_ROOTS=roots, REACHED_AS=elsewhere):
                try:
                    refuse_folder(Place.parse(str(place)))
                    refused = False
                except HostRefused:
                    refused = True
                self.assertEqual(refused, not allowed)


class FolderListingTests(ApiTestCase):
    def test_folders_are_listed_within_the_roots_only(self):
        root = self.folder / "sites"
        for name in ("ferry/pics", ".git", "tide"):
            (root / name).mkdir(parents=True)
        (root / "out").symlink_to(self.folder)
        (root / "file").touch()
        with override_settings(PLACE_ROOTS=[root]):
            top = self.ask("GET", "folders").json()
            self.assertEqual((top["folders"], top["parent"]), (["ferry", "out", "tide"], None))
            below = self.ask("GET", f"folders?path={root}/ferry").json()
            self.assertEqual((below["folders"], below["parent"]), (["pics"], str(root)))
            for path in (self.folder, f"{root}/../", f"{root}/out", "/"):
                self.problem(self.ask("GET", f"folders?path={path}"), 409, "folder-not-allowed")
            self.problem(self.ask("GET", f"folders?path={root}/gone"), 409, "folder-unreadable")
        with override_settings(REACHED_AS=["bexi.example"]):
            accounts.add("ines", PASSWORD, Role.ADMINISTERS)
            _, secret = tokens.make(User.objects.get(), "ci", Role.INSTALLS, 1)
            answer = self.client.get("/api/folders", headers={"Authorization": f"Bearer {secret}"})
            self.problem(answer, 409, "folder-not-allowed")

    def test_on_ones_own_machine_every_folder_may_be_looked_into(self):
        self.assertIsNone(self.ask("GET", "folders?path=/").json()["parent"])


class HistoryTests(PeopleCase):
    def test_who_changed_the_place_is_shown_and_exported(self):
        site = Site.objects.create(name="Ferry")
        self.sign_in()
        self.ask("PUT", f"sites/{site.pk}", {"name": "Ferry", "place": str(self.folder)})
        (told,) = self.ask("GET", f"sites/{site.pk}/history").json()
        self.assertEqual((told["who"], told["did"]), ("ines", "changed the place"))
        self.assertIn(str(self.folder), told["told"])
        exported = self.client.get(f"/api/sites/{site.pk}/history.csv")
        self.assertIn("ines,changed the place", exported.content.decode())
        self.assertIn("ferry-history.csv", exported.headers["Content-Disposition"])

    def test_an_export_holds_no_formulas(self):
        line = as_csv([Entry(timezone.now(), '=HYPERLINK("x")', "installed", "@a")]).splitlines()[1]
        self.assertIn("\"'=HYPERLINK", line)
        self.assertIn(",'@a,", line)


class VaultTests(TestCase):
    def test_the_key_comes_from_the_environment_or_a_file(self):
        key = Fernet.generate_key().decode()
        with override_settings(VAULT_KEY=key):
            sealed = vault.seal(Secret.of(PLACE, "secret"))
            self.assertNotIn("secret", sealed)
            self.assertEqual(vault.unseal(sealed, PLACE).text, "secret")
        with override_settings(VAULT_KEY=Fernet.generate_key().decode()), self.assertRaises(HostRefused):
            vault.unseal(sealed, PLACE)

    def test_what_is_sealed_opens_for_its_own_account_alone(self):
        with override_settings(VAULT_KEY=Fernet.generate_key().decode()):
            sealed = vault.seal(Secret.of(PLACE, "secret"))
            self.assertEqual(vault.unseal(sealed, Place.parse("sftp://ines@FERRY.example:22/other")).text, "secret")
            for other in (
                "sftp://tom@ferry.example/www",
                "ftps://ines@ferry.example/www",
                "sftp://ines@ferry.example:23/",
            ):
                with self.assertRaises(HostRefused) as caught:
                    vault.unseal(sealed, Place.parse(other))
                self.assertEqual(caught.exception.code, "secret-lost")

    def test_what_is_no_key_is_said(self):
        with override_settings(VAULT_KEY="guess"), self.assertRaisesMessage(HostRefused, "bexi key"):
            vault.seal(Secret.of(PLACE, "secret"))


class CommandTests(TestCase):
    def run_it(self, *arguments: str, said: str = f"{PASSWORD}\n"):
        with mock.patch.object(command, "_set_up"):
            return CliRunner().invoke(app, ["user", *arguments], input=said)

    def test_add_list_password_remove(self):
        self.assertIn("ines can sign in now, as Administrator.", self.run_it("add", "ines", "--password-stdin").stdout)
        self.assertEqual(self.run_it("add", "tom", "--role", "looks", said=f"{PASSWORD}\n{PASSWORD}\n").exit_code, 0)
        self.assertEqual(self.run_it("list").stdout, "ines\tadministers\ntom\tlooks\n")
        for wrong, sentence in (
            (["add", "tom", "--password-stdin"], "already exists"),
            (["add", "ada", "--role", "king"], "The roles are looks, checks, edits"),
            (["password", "ada"], "There is no account ada"),
            (["remove", "ines"], "needs an administrator"),
        ):
            result = self.run_it(*wrong)
            self.assertEqual(result.exit_code, 1, wrong)
            self.assertIn(sentence, result.stderr)
        before = User.objects.get(username="ines").password
        self.assertEqual(
            self.run_it("password", "ines", "--password-stdin", said="other-lanterns-astern\n").exit_code, 0
        )
        self.assertNotEqual(User.objects.get(username="ines").password, before)
        self.assertEqual([self.run_it("remove", name).exit_code for name in ("tom", "ines")], [0, 0])

    def test_a_fresh_key_can_be_used(self):
        Fernet(CliRunner().invoke(app, ["key"]).stdout.strip())


class DeploymentTests(TestCase):
    def test_a_request_that_says_it_came_by_tls_is_believed_only_behind_our_proxy(self):
        self.assertIsNone(settings.SECURE_PROXY_SSL_HEADER)
        self.assertFalse(settings.SESSION_COOKIE_SECURE)

    def test_the_settings_behind_a_proxy_pass_the_check_of_the_framework(self):
        """Django's deployment checklist, by `check --deploy`."""
        out = StringIO()
        secure = {
            "SECURE_SSL_REDIRECT": True, "SECURE_HSTS_SECONDS": 31536000, "SESSION_COOKIE_SECURE": True,
            "CSRF_COOKIE_SECURE": True,
        }  # fmt: skip
        with override_settings(**secure), mock.patch.dict("os.environ"):
            os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)  # the browser tests' own
            call_command("check", deploy=True, stdout=out, stderr=out)
        left = set(re.findall(r"security\.W\d+", out.getvalue()))
        self.assertLessEqual(left, {"security.W005", "security.W021"})  # subdomains are not ours to promise for
        self.assertIn("BEXI_PROXY", Path(settings.REPOSITORY / "bexi/server/settings.py").read_text())
