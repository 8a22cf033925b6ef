# Sourced by bin/serve, bin/worker and bin/server: how PHP is started wherever models run.
# shellcheck shell=sh
# The JIT is switched on only for compiled models, in a mode that computes right numbers; see core/Compile/ProgramStore.php.
php_options="-d opcache.enable=1 -d opcache.enable_cli=1 -d opcache.jit=off -d opcache.jit_buffer_size=64M -d opcache.file_update_protection=0 -d opcache.memory_consumption=192 -d opcache.max_accelerated_files=16000 -d zend.exception_ignore_args=1"
# Besides, of what answers requests. One is over before circles of objects matter.
web_options="-d memory_limit=512M -d post_max_size=24M -d expose_php=0 -d zend.enable_gc=0"
