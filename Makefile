# Every target sets up what it needs by itself; set-up that is done is found by its stamp.
LIBRARY := $(CURDIR)/.rlibrary
export R_LIBS := $(LIBRARY)$(if $(R_LIBS),:$(R_LIBS))
export R_LIBS_USER := $(LIBRARY)
export R_MAKEVARS_USER := $(CURDIR)/tools/Makevars
PREFIX ?= /usr/local
SOURCES := DESCRIPTION NAMESPACE $(shell find R src inst exec man -type f ! -name '*.o' ! -name '*.so')

.PHONY: demo test install bench lint screenshots docs check clean

demo: .stamps/package
	@Rscript exec/quill demo -o demo-output

test: .stamps/package
	@Rscript tools/run-tests.R

install: .stamps/packages
	R CMD INSTALL .
	install -d $(DESTDIR)$(PREFIX)/bin
	install -m 755 exec/quill $(DESTDIR)$(PREFIX)/bin/quill

bench: .stamps/package
	@for file in bench/*.R; do echo "== $$file"; Rscript $$file || exit 1; done

lint: .stamps/developer
	@Rscript tools/lint.R

screenshots: .stamps/package .stamps/developer
	@Rscript tools/screenshots.R

docs: .stamps/developer
	Rscript -e 'roxygen2::roxygenise(load_code = "source")'

check: .stamps/packages
	R CMD build --no-build-vignettes . && _R_CHECK_FORCE_SUGGESTS_=false R CMD check --no-manual upbeatquill_*.tar.gz

clean:
	rm -rf .stamps .rlibrary demo-output upbeatquill_*.tar.gz upbeatquill.Rcheck src/*.o src/*.so

.stamps/packages: DESCRIPTION tools/setup.R
	@Rscript tools/setup.R run
	@mkdir -p .stamps && touch $@

.stamps/developer: .stamps/packages
	@Rscript tools/setup.R developer
	@touch $@

.stamps/package: .stamps/packages $(SOURCES)
	@mkdir -p $(LIBRARY)
	@echo "Building upbeatquill ..." >&2
# the kernels beside the byte-compiling of the R code, each on a core of its own
	@mkdir -p .stamps/kernels
	@R CMD INSTALL --libs-only --no-test-load --library=.stamps/kernels . > .stamps/kernels.log 2>&1 & kernels=$$!; \
	  R CMD INSTALL --no-libs --no-docs --no-test-load --library=$(LIBRARY) . > .stamps/install.log 2>&1 || { cat .stamps/install.log >&2; exit 1; }; \
	  wait $$kernels || { cat .stamps/kernels.log >&2; exit 1; }
	@rm -rf $(LIBRARY)/upbeatquill/libs && cp -R .stamps/kernels/upbeatquill/libs $(LIBRARY)/upbeatquill/libs
	@touch $@
