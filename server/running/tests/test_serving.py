"""Starting the server: where it answers, what it says when it cannot, and that nobody waits for the garbage collector."""

from __future__ import annotations

import gc
import socket
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.test import SimpleTestCase, override_settings

from server import web
from server.running.management.commands import serve


class Serving(SimpleTestCase):
    def test_says_where_it_is_open(self) -> None:
        with override_settings(LOOPBACK=True, HOST="127.0.0.1"):
            self.assertIn("http://127.0.0.1:8765/", serve.opening_words(8765))

    def test_behind_a_proxy_it_says_so(self) -> None:
        with override_settings(LOOPBACK=False, HOST="127.0.0.1", HOSTS=["garage.example"]):
            said = serve.opening_words(8765)
        self.assertIn("open for its proxy at http://127.0.0.1:8765/, as garage.example", said)
        self.assertNotIn("local network", said)

    def test_on_the_local_network_it_says_the_address_and_the_code(self) -> None:
        with override_settings(LOOPBACK=False, HOST="0.0.0.0", LAN_CODE="135790"), patch.object(serve, "lan_addresses", return_value=["192.0.2.4"]):
            said = serve.opening_words(8765)
        self.assertIn("http://192.0.2.4:8765/", said)
        self.assertIn("135790", said)

    def test_a_port_that_is_taken_says_what_to_do(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            with override_settings(HOST="127.0.0.1"), self.assertRaisesMessage(CommandError, f"Port {port} is taken"):
                call_command("serve", port=port)

    def test_addresses_are_those_others_can_reach(self) -> None:
        """Of what the machine calls itself, those beyond it; the machine's own loopback is nobody else's."""
        named = [(2, 1, 6, "", (address, 0)) for address in ("127.0.1.1", "192.168.7.20")]
        with patch("socket.getaddrinfo", return_value=named):
            found = serve.lan_addresses()
        self.assertIn("192.168.7.20", found)
        self.assertFalse([a for a in found if a.startswith(("127.", "0."))])

    def test_what_is_loaded_is_out_of_the_collectors_sight(self) -> None:
        self.addCleanup(gc.unfreeze)
        web.load_for_good()
        self.assertGreater(gc.get_freeze_count(), 50_000)
