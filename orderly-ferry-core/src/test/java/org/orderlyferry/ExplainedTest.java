package org.orderlyferry;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javax.tools.Diagnostic;
import javax.tools.DiagnosticCollector;
import javax.tools.JavaCompiler;
import javax.tools.JavaFileObject;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Each public type and method says what it is for, and what is said is well-formed and refers to what is there. */
class ExplainedTest {

    @Test
    void publicTypesAndMethodsAreExplained(@TempDir Path classes) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        DiagnosticCollector<JavaFileObject> found = new DiagnosticCollector<>();
        List<Path> sources;
        try (Stream<Path> all = Files.walk(Path.of("src/main/java"))) {
            sources = all.filter(p -> p.toString().endsWith(".java")).toList();
        }
        List<String> options = List.of(
                "-proc:none",
                "-d",
                classes.toString(),
                "-classpath",
                System.getProperty("java.class.path"),
                "-Xdoclint:all/public",
                "-Xmaxwarns",
                "10000");
        try (StandardJavaFileManager files = compiler.getStandardFileManager(found, Locale.ROOT, null)) {
            boolean compiled = compiler.getTask(
                            null, files, found, options, null, files.getJavaFileObjectsFromPaths(sources))
                    .call();
            assertThat(compiled).as(found.getDiagnostics().toString()).isTrue();
        }
        List<String> missing = new ArrayList<>();
        for (Diagnostic<? extends JavaFileObject> one : found.getDiagnostics()) {
            String what = one.getMessage(Locale.ROOT);
            if (one.getSource() == null || what.matches("no @(param|return|throws).*")) {
                // a parameter or a result may be told in the sentence
                continue;
            }
            if (what.startsWith("use of default constructor")) {
                // newer compilers ask for one to be written out where nothing is to be said of it
                continue;
            }
            List<String> lines = Files.readAllLines(Path.of(one.getSource().toUri()));
            String line = lines.get((int) one.getLineNumber() - 1).strip();
            // a constant may be explained by what it is made of
            if (!what.startsWith("no comment")
                    || line.matches("public (?!static final)(.*\\(|.*(class|interface|record|enum) ).*")) {
                missing.add(one.getSource().getName() + ":" + one.getLineNumber() + " " + what + ": " + line);
            }
        }
        assertThat(found.getDiagnostics()).as("the compiler looked at comments").isNotEmpty();
        assertThat(missing).isEmpty();
    }
}
