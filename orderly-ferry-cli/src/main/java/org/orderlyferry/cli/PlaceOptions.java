package org.orderlyferry.cli;

import java.io.Console;
import java.nio.file.Path;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Secrets;

/** How the command line opens places: it can ask for a password where there is a terminal. */
final class PlaceOptions {

    private PlaceOptions() {}

    /** Secrets come from where their marks say, and are asked for at the terminal. */
    static Secrets secrets() {
        return new Secrets(System::getenv, PlaceOptions::ask);
    }

    static OpenOptions.Builder of() {
        return OpenOptions.builder().secrets(secrets());
    }

    static OpenOptions.Builder of(FileOptions files, Path definitions) {
        OpenOptions.Builder options = of().files(files.settings());
        files.format().ifPresent(options::format);
        if (definitions != null) {
            options.definitions(definitions);
        }
        return options;
    }

    private static String ask(String prompt) {
        Console console = System.console();
        char[] typed = console == null ? null : console.readPassword(prompt);
        return typed == null ? null : new String(typed);
    }
}
