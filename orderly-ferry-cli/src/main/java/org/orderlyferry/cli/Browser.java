package org.orderlyferry.cli;

import java.awt.Desktop;
import java.awt.GraphicsEnvironment;
import java.io.IOException;
import java.nio.file.Path;
import org.slf4j.LoggerFactory;

/** The person's browser, where there is one. */
final class Browser {

    private Browser() {}

    /** Whether it took the page. */
    static boolean show(Path page) {
        try {
            if (!GraphicsEnvironment.isHeadless()
                    && Desktop.isDesktopSupported()
                    && Desktop.getDesktop().isSupported(Desktop.Action.BROWSE)) {
                Desktop.getDesktop().browse(page.toAbsolutePath().toUri());
                return true;
            }
        } catch (IOException | UnsupportedOperationException e) {
            LoggerFactory.getLogger(Browser.class).debug("no browser took {}", page, e);
        }
        return false;
    }
}
