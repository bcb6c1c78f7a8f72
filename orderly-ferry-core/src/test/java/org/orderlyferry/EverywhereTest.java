package org.orderlyferry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;

/** What a process's locale and encoding could change. */
@Tag("everywhere")
class EverywhereTest {

    @Test
    void aNameThatTheProcessCantUseIsToldWithWhatHelps() {
        PlaceAddress address = PlaceAddress.of("bl\u00fcte.csv");
        if (System.getProperty("sun.jnu.encoding").contains("ANSI")) {
            assertThatThrownBy(address::path).isInstanceOf(UsageException.class).hasMessageContaining("LC_ALL=C.UTF-8");
        } else {
            assertThat(address.path().toString()).isEqualTo("bl\u00fcte.csv");
        }
    }

    @Test
    void aShortSecretDoesntChewUpAMessage() {
        Secrets secrets = new Secrets(name -> name.equals("A") ? "a" : "moss-and-fern", prompt -> null);
        PlaceAddress.of("jdbc:x:${env:A}?password=${env:B}").opened(secrets);
        assertThat(secrets.strikeOut("a bad day: password a was wrong, and moss-and-fern too"))
                .isEqualTo("*** bad day: password *** was wrong, and *** too");
        assertThat(OpenOptions.builder().secrets(secrets).build().secrets()).isSameAs(secrets);
    }
}
