package org.orderlyferry.cli;

import java.awt.Desktop;
import java.awt.GraphicsEnvironment;
import java.io.File;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/** The person's browser, where there is one. */
final class Browser {

    private Browser() {}

    /** Whether it took the page. */
    static boolean show(Path page) {
        URI address = page.toAbsolutePath().toUri();
        try {
            if (!GraphicsEnvironment.isHeadless()
                    && Desktop.isDesktopSupported()
                    && Desktop.getDesktop().isSupported(Desktop.Action.BROWSE)) {
                Desktop.getDesktop().browse(address);
                return true;
            }
            return byOpener(address);
        } catch (IOException | UnsupportedOperationException e) {
            LoggerFactory.getLogger(Browser.class).debug("no browser took {}", page, e);
        }
        return false;
    }

    /** By the desktop's own way to open things, where Java knows none. */
    private static boolean byOpener(URI address) throws IOException {
        boolean desktop = System.getenv("DISPLAY") != null || System.getenv("WAYLAND_DISPLAY") != null;
        Optional<Path> opener = Stream.of(
                        Objects.requireNonNullElse(System.getenv("PATH"), "").split(File.pathSeparator))
                .map(folder -> Path.of(folder, "xdg-open"))
                .filter(Files::isExecutable)
                .findFirst();
        if (!desktop || opener.isEmpty()) {
            return false;
        }
        new ProcessBuilder(opener.get().toString(), address.toString())
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        return true;
    }
}
