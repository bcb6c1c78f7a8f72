package org.orderlyferry.cli;

import java.io.Console;
import java.nio.file.Path;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Secrets;

/** How the command line opens places: it can ask for a password where there is a terminal. */
final class PlaceOptions {

    private PlaceOptions() {}

    static OpenOptions of() {
        return OpenOptions.DEFAULT.withSecrets(new Secrets(System::getenv, PlaceOptions::ask));
    }

    static OpenOptions of(FileOptions files, Path definitions) {
        OpenOptions options = of().withFiles(files.settings());
        options = files.format().isPresent() ? options.withFormat(files.format().get()) : options;
        return definitions == null ? options : options.withDefinitions(definitions);
    }

    private static String ask(String prompt) {
        Console console = System.console();
        char[] typed = console == null ? null : console.readPassword(prompt);
        return typed == null ? null : new String(typed);
    }
}
